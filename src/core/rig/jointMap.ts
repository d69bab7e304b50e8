import { toAngleDeg, toSetPoint } from "@core/calibrate";
import type { Joint, ServoCard } from "@core/project";
import { curveOf, spinCurveOf } from "@core/servo";
import { pulseUsOfSpin, spinOf } from "@core/signal";

/**
 * The way between a joint's target (degrees, or spin) and its servo's set point (µs, or ticks),
 * through direction, zero convention and calibration. Made once when the document changes, not every tick.
 */
export interface JointMap {
  readonly targetUnit: "°" | "spin";
  readonly lowTarget: number;
  readonly highTarget: number;
  readonly homeTarget: number;
  /** Targets per second; Infinity where no limit is set. */
  readonly fastestPerS: number;
  toSetPoint(target: number): number;
  toTarget(setPoint: number): number;
}

export function jointMapOf(joint: Joint, card: ServoCard): JointMap {
  const { axis } = joint;
  if (axis.kind === "spin") {
    if (card.kind !== "continuous") throw new Error(`${joint.label} spins, but its servo does not turn on.`);
    const curve = spinCurveOf(card);
    return {
      targetUnit: "spin",
      lowTarget: -axis.limit,
      highTarget: axis.limit,
      homeTarget: 0,
      fastestPerS: axis.rampPerS ?? Number.POSITIVE_INFINITY,
      toSetPoint: (spin) => pulseUsOfSpin(curve, axis.direction * spin),
      toTarget: (setPoint) => axis.direction * spinOf(curve, setPoint),
    };
  }
  if (card.kind === "continuous") throw new Error(`${joint.label} has angles, but its servo only turns on.`);
  const curve = curveOf(card);
  return {
    targetUnit: "°",
    lowTarget: axis.travel.low,
    highTarget: axis.travel.high,
    homeTarget: axis.homeDeg,
    fastestPerS: axis.speedLimitDegPerS ?? Number.POSITIVE_INFINITY,
    toSetPoint: (angleDeg) => toSetPoint(curve, servoDegOf(axis, angleDeg)),
    toTarget: (setPoint) => jointDegOf(axis, toAngleDeg(curve, setPoint)),
  };
}

interface Zeroed {
  readonly zeroDeg: number;
  readonly direction: 1 | -1;
}

/** The servo's own angle when the joint stands at `jointDeg`. */
export const servoDegOf = (axis: Zeroed, jointDeg: number): number => axis.zeroDeg + axis.direction * jointDeg;

/** The joint's angle when the servo's own stands at `servoDeg`. */
export const jointDegOf = (axis: Zeroed, servoDeg: number): number => axis.direction * (servoDeg - axis.zeroDeg);
