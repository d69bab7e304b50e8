/**
 * How one servo's angle follows from its set point, as measured.
 * Angles are the servo's own degrees; set points are in the card's unit (µs, or ticks for a smart servo).
 * Every curve has the straight line that lies nearest to it, for equations; a piecewise one also has its knots.
 */
export type Curve = StraightCurve | PiecewiseCurve;

interface Line {
  /** Change of set point per degree; negative when the servo turns the other way. Never 0. */
  readonly slopePerDeg: number;
  /** The set point at 0°. */
  readonly intercept: number;
}

export interface StraightCurve extends Line {
  readonly kind: "line";
}

export interface PiecewiseCurve extends Line {
  readonly kind: "piecewise";
  /** At least two, ascending in angle, and strictly rising or strictly falling in set point. */
  readonly knots: readonly Knot[];
}

export interface Knot {
  readonly angleDeg: number;
  readonly setPoint: number;
}

/** `set point = slope × angle + intercept`; piecewise between knots, and on in the last direction beyond them. */
export function toSetPoint(curve: Curve, angleDeg: number): number {
  if (curve.kind === "line") return curve.slopePerDeg * angleDeg + curve.intercept;
  const [a, b] = segmentAt(curve.knots, (knot) => knot.angleDeg >= angleDeg);
  return a.setPoint + ((angleDeg - a.angleDeg) * (b.setPoint - a.setPoint)) / (b.angleDeg - a.angleDeg);
}

/** The inverse of `toSetPoint`. */
export function toAngleDeg(curve: Curve, setPoint: number): number {
  if (curve.kind === "line") return (setPoint - curve.intercept) / curve.slopePerDeg;
  const isRising = curve.slopePerDeg > 0;
  const [a, b] = segmentAt(curve.knots, (knot) => (isRising ? knot.setPoint >= setPoint : knot.setPoint <= setPoint));
  return a.angleDeg + ((setPoint - a.setPoint) * (b.angleDeg - a.angleDeg)) / (b.setPoint - a.setPoint);
}

/** The two knots between which something lies; the outer two where it lies beyond. */
function segmentAt(knots: readonly Knot[], isReached: (knot: Knot) => boolean): [Knot, Knot] {
  let at = 1;
  while (at < knots.length - 1 && !isReached(knots[at] as Knot)) at += 1;
  return [knots[at - 1] as Knot, knots[at] as Knot];
}
