export { type Curve, type Knot, toAngleDeg, toSetPoint } from "./curve";
export {
  beginStopSearch,
  longestPressMs,
  retreatOf,
  type Seen,
  type StopSearch,
  tellStopSearch,
} from "./endStops";
export { adviseFit, type FitKind, fitCurve, monotonePiecewise, offCentreOf, residualsDeg, rms } from "./fit";
export { bestLine, lineThrough, type MeasuredPoint } from "./line";
export { findSlips, type Slip } from "./slips";
