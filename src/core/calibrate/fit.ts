import { ok, problem, type Result } from "@core/result";
import { type Curve, type Knot, toAngleDeg, toSetPoint } from "./curve";
import { bestLine, type MeasuredPoint } from "./line";

export type FitKind = "line" | "piecewise";

/** The curve of some kind through measured points, in any order. */
export const fitCurve = (kind: FitKind, points: readonly MeasuredPoint[]): Result<Curve> =>
  kind === "line" ? bestLine(points) : monotonePiecewise(points);

/** Angles closer than this are one knot: their set points are averaged. */
const sameAngleDeg = 0.75;
/** Two knots never have less than this between their set points, or the curve could not be turned round. */
const leastRise = 1e-6;

/**
 * A piecewise straight curve through the points that never turns back. Where readings contradict that, neighbours are
 * averaged until they agree (pool adjacent violators: the least-squares fit among all monotone ones).
 */
export function monotonePiecewise(points: readonly MeasuredPoint[]): Result<Curve> {
  const line = bestLine(points);
  if (!line.ok) return line;
  const way = Math.sign(line.value.slopePerDeg);
  const pooled: { sumDeg: number; sum: number; count: number }[] = [];
  for (const point of points.toSorted((a, b) => a.angleDeg - b.angleDeg)) {
    const last = pooled.at(-1);
    const isSame = last && point.angleDeg - last.sumDeg / last.count < sameAngleDeg;
    if (isSame) {
      last.sumDeg += point.angleDeg;
      last.sum += point.setPoint;
      last.count += 1;
    } else pooled.push({ sumDeg: point.angleDeg, sum: point.setPoint, count: 1 });
    mergeBack(pooled, way);
  }
  const knots = pooled.map(({ sumDeg, sum, count }): Knot => ({ angleDeg: sumDeg / count, setPoint: sum / count }));
  if (knots.length < 2) return problem("The points contradict each other. Measure them again, further apart.");
  return ok({ ...line.value, kind: "piecewise", knots });
}

/** Merges the newest pool with those before it for as long as they stand in the wrong order. */
function mergeBack(pools: { sumDeg: number; sum: number; count: number }[], way: number): void {
  for (;;) {
    const b = pools.at(-1);
    const a = pools.at(-2);
    if (!a || !b || way * (b.sum / b.count - a.sum / a.count) > leastRise) return;
    pools.splice(-2, 2, { sumDeg: a.sumDeg + b.sumDeg, sum: a.sum + b.sum, count: a.count + b.count });
  }
}

/** How far each point lies off a curve, in degrees: what the curve says less what was seen. */
export const residualsDeg = (curve: Curve, points: readonly MeasuredPoint[]): readonly number[] =>
  points.map((point) => toAngleDeg(curve, point.setPoint) - point.angleDeg);

export const rms = (values: readonly number[]): number =>
  Math.sqrt(values.reduce((sum, value) => sum + value * value, 0) / Math.max(values.length, 1));

/** A protractor is read to about half a degree; what a line is off by less than that is reading, not bend. */
const readingNoiseDeg = 0.5;

/** Which curve is worth it, and why, in a sentence. */
export function adviseFit(points: readonly MeasuredPoint[]): { readonly kind: FitKind; readonly says: string } | null {
  const line = bestLine(points);
  if (!line.ok) return null;
  const off = rms(residualsDeg(line.value, points));
  if (points.length < 4)
    return {
      kind: "line",
      says: `${points.length} points can only tell a straight line. Take two more to see whether this servo bends.`,
    };
  if (off <= readingNoiseDeg * 1.4)
    return {
      kind: "line",
      says: `Straight is enough: the line is off by ${off.toFixed(2)}°, no more than a protractor can be read.`,
    };
  return {
    kind: "piecewise",
    says: `This servo bends: a straight line is off by ${off.toFixed(2)}°. Piecewise follows what you measured.`,
  };
}

/** Where the middle of the travel really is, against where the data sheet has it. */
export interface OffCentre {
  readonly setPoint: number;
  readonly angleDeg: number;
  readonly teeth: number;
}

/** How far off centre a servo is at half its travel: in set points, degrees, and teeth of its spline (360° / teeth). */
export function offCentreOf(curve: Curve, middleSetPoint: number, middleDeg: number, splineTeeth: number): OffCentre {
  const angleDeg = toAngleDeg(curve, middleSetPoint) - middleDeg;
  return { setPoint: toSetPoint(curve, middleDeg) - middleSetPoint, angleDeg, teeth: angleDeg / (360 / splineTeeth) };
}
