export { type Curve, toAngleDeg, toSetPoint } from "./curve";
export { bestLine, lineThrough, type MeasuredPoint } from "./line";
