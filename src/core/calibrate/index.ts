export { adviseCheck, type CheckRead, type CheckReport, type CheckStep, checkSteps, reportCheck } from "./check";
export { type Curve, type Knot, toAngleDeg, toSetPoint } from "./curve";
export { driftDeg } from "./drift";
export {
  beginStopSearch,
  longestPressMs,
  retreatOf,
  type Seen,
  type StopSearch,
  stopFineness,
  tellStopSearch,
} from "./endStops";
export { adviseFit, type FitKind, fitCurve, monotonePiecewise, offCentreOf, residualsDeg, rms } from "./fit";
export { bestLine, lineThrough, type MeasuredPoint } from "./line";
export { type Protractor, plainProtractor, readDegAt, servoDegAt } from "./protractor";
export { beginRestSearch, type RestSearch, restOf, tellRestSearch } from "./restSearch";
export { findSlips, type Slip } from "./slips";
export { Survey, type SurveyAsk, type SurveyReport, type SurveySample } from "./survey";
export { type CountedSpeed, speedOfTaps } from "./turns";
