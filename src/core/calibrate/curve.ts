/**
 * How one servo's angle follows from its set point, as measured.
 * Angles are the servo's own degrees; set points are in the card's unit (µs, or ticks for a smart servo).
 */
export interface Curve {
  readonly kind: "line";
  /** Change of set point per degree; negative when the servo turns the other way. Never 0. */
  readonly slopePerDeg: number;
  /** The set point at 0°. */
  readonly intercept: number;
}

/** `set point = slope × angle + intercept` */
export const toSetPoint = (curve: Curve, angleDeg: number): number => curve.slopePerDeg * angleDeg + curve.intercept;

/** The inverse of `toSetPoint`. */
export const toAngleDeg = (curve: Curve, setPoint: number): number => (setPoint - curve.intercept) / curve.slopePerDeg;
