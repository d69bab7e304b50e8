import { type Curve, toAngleDeg, toSetPoint } from "./curve";

/**
 * How a servo has wandered: where each calibration says the horn stands at the set points that the first one gave for some angles, less
 * those angles. One row per curve, one number per angle, in degrees; the first row is 0.
 */
export function driftDeg(curves: readonly Curve[], anglesDeg: readonly number[]): readonly (readonly number[])[] {
  const first = curves[0];
  if (!first) return [];
  const setPoints = anglesDeg.map((angle) => toSetPoint(first, angle));
  return curves.map((curve) =>
    setPoints.map((setPoint, at) => toAngleDeg(curve, setPoint) - (anglesDeg[at] as number)),
  );
}
