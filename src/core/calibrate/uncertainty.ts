import { leastSquares } from "./leastSquares";
import type { MeasuredPoint } from "./line";

/** How far an eye at a protractor is off, besides the step in which it reads, in degrees. */
const eyeDeg = 0.3;
/** What a sensor is off by, in degrees. */
const sensorDeg = 0.1;
/** Steps in which people read, widest first. */
const steps = [10, 5, 2, 1, 0.5, 0.25, 0.1];

/** In which steps angles were read, by what they have in common; null for angles that no person reads so finely. */
export function readingStepDeg(anglesDeg: readonly number[]): number | null {
  const first = anglesDeg[0];
  if (first === undefined || anglesDeg.length < 3) return 0.5;
  const isWhole = (value: number) => Math.abs(value - Math.round(value)) < 1e-6;
  return steps.find((step) => anglesDeg.every((deg) => isWhole((deg - first) / step))) ?? null;
}

/** The spread of one reading, in degrees: an even spread over a reading step is the step / √12; an eye's comes on top. */
export function readingSpreadDeg(anglesDeg: readonly number[]): number {
  const step = readingStepDeg(anglesDeg);
  return step === null ? sensorDeg : Math.hypot(eyeDeg, step / Math.sqrt(12));
}

/** A straight line with how far its numbers may be off, in 95 of 100 cases. */
export interface LineError {
  readonly slopePerDeg: number;
  readonly intercept: number;
  /** What an angle read off the line may be off by in the middle of the points, and at the worse of their ends. */
  readonly middleDeg: number;
  readonly endDeg: number;
  /** The spread of one reading about the line. */
  readonly spreadDeg: number;
}

/**
 * How far the line through measured points may be off. The set points are exact, the angles are read: so the angle is fitted over the set point, and
 * turned round. Slope and intercept by the usual propagation: σ(1/β) = σβ/β², and the place where α + βs is 0. Null for points that make no line.
 */
export function lineError(points: readonly MeasuredPoint[]): LineError | null {
  const middle = points.reduce((sum, point) => sum + point.setPoint, 0) / Math.max(points.length, 1);
  const half = Math.max(1e-9, ...points.map((point) => Math.abs(point.setPoint - middle)));
  const angles = points.map((point) => point.angleDeg);
  const fit = leastSquares(
    points.map((point) => [1, (point.setPoint - middle) / half]),
    angles,
    readingSpreadDeg(angles),
  );
  const perHalf = fit?.values[1] ?? 0;
  if (!fit || perHalf === 0) return null;
  const perSetPoint = perHalf / half;
  const spreadAt = (share: number) =>
    fit.reach * Math.sqrt(fit.covariance(0, 0) + 2 * share * fit.covariance(0, 1) + share ** 2 * fit.covariance(1, 1));
  const shareAtZero = -(fit.values[0] as number) / perHalf;
  const shares = points.map((point) => (point.setPoint - middle) / half);
  return {
    slopePerDeg: (fit.plusMinus[1] as number) / half / perSetPoint ** 2,
    intercept: spreadAt(shareAtZero) / Math.abs(perSetPoint),
    middleDeg: spreadAt(0),
    endDeg: Math.max(...shares.map(spreadAt)),
    spreadDeg: fit.spread,
  };
}
