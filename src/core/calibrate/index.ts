export { type Cause, type CauseShare, type Diagnosis, diagnose } from "./causes";
export { type CheckRead, type CheckReport, type CheckStep, checkSteps, pointsOf, reportCheck } from "./check";
export { type Curve, type Knot, toAngleDeg, toSetPoint } from "./curve";
export { driftDeg } from "./drift";
export {
  beginStopSearch,
  type FoundStop,
  longestPressMs,
  retreatOf,
  type Seen,
  type StopAnswer,
  type StopAsk,
  type StopSearch,
  settleAtLeastMs,
  settleMsOf,
  stopForCard,
  stopOf,
  stopSearchAfter,
  tellStopSearch,
  windowInside,
} from "./endStops";
export { adviseFit, type FitKind, fitCurve, monotonePiecewise, offCentreOf, residualsDeg, rms } from "./fit";
export { type Grid, onGrid } from "./grid";
export { bestLine, lineThrough, type MeasuredPoint } from "./line";
export { type Protractor, plainProtractor, readDegAt, servoDegAt } from "./protractor";
export {
  beginRestSearch,
  type RestAnswer,
  type RestAsk,
  type RestSearch,
  restOf,
  restSearchAfter,
  type Turning,
} from "./restSearch";
export { findSlips, type Slip } from "./slips";
export {
  markStep,
  type StopsAnswer,
  type StopsAsk,
  type StopsStage,
  stopsAfter,
  windowMargin,
} from "./stopFinding";
export { Survey, type SurveyAsk, type SurveyReport } from "./survey";
export type { SurveySample } from "./surveyWay";
export { type CountedSpeed, speedOfTaps } from "./turns";
export { type LineError, lineError, readingSpreadDeg } from "./uncertainty";
export { type CheckMend, type CheckVerdict, judgeCheck } from "./verdict";
