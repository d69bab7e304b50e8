import { ok, problem, type Result } from "@core/result";
import type { Curve } from "./curve";

/** What was seen on the protractor while a set point was being sent. */
export interface MeasuredPoint {
  readonly angleDeg: number;
  readonly setPoint: number;
}

/**
 * The line through two measured points.
 * The order of the points does not matter; a servo that turns the other way has a negative slope.
 * Points less than 1° apart are refused: their slope is mostly reading error.
 */
export function lineThrough(a: MeasuredPoint, b: MeasuredPoint): Result<Curve> {
  const spanDeg = b.angleDeg - a.angleDeg;
  if (!(Math.abs(spanDeg) >= 1)) return problem("The two angles are less than 1° apart. Measure them further apart.");
  const slopePerDeg = (b.setPoint - a.setPoint) / spanDeg;
  if (slopePerDeg === 0) return problem("Both angles were seen at the same set point. Jog further before the second.");
  return ok({ kind: "line", slopePerDeg, intercept: a.setPoint - slopePerDeg * a.angleDeg });
}

/**
 * The straight line that lies nearest to all points: least squares of the set point over the angle.
 * Through two points it is the line through both. Refused as `lineThrough` refuses.
 */
export function bestLine(points: readonly MeasuredPoint[]): Result<Curve> {
  const angles = points.map((point) => point.angleDeg);
  if (points.length < 2) return problem("A line needs two points.");
  if (!(Math.max(...angles) - Math.min(...angles) >= 1))
    return problem("The angles are less than 1° apart. Measure them further apart.");
  const meanDeg = meanOf(angles);
  const meanSetPoint = meanOf(points.map((point) => point.setPoint));
  let spread = 0;
  let shared = 0;
  for (const point of points) {
    spread += (point.angleDeg - meanDeg) ** 2;
    shared += (point.angleDeg - meanDeg) * (point.setPoint - meanSetPoint);
  }
  const slopePerDeg = shared / spread;
  if (slopePerDeg === 0 || !Number.isFinite(slopePerDeg))
    return problem("The set points do not change with the angle. Jog further between the points.");
  return ok({ kind: "line", slopePerDeg, intercept: meanSetPoint - slopePerDeg * meanDeg });
}

const meanOf = (values: readonly number[]) => values.reduce((sum, value) => sum + value, 0) / values.length;
