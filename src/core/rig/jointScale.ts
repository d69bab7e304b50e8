import type { Joint, ServoCard } from "@core/project";
import type { JointMap } from "./jointMap";
import { jointDegOf } from "./jointMap";

/** The landmarks of one joint on its own scale of targets (degrees, or spin): what a dial has to draw. */
export interface JointScale {
  /** The middle of the dial. */
  readonly centre: number;
  /** How far the scale reaches to either side of the centre. */
  readonly reach: number;
  /** The travel limits. */
  readonly travelLow: number;
  readonly travelHigh: number;
  readonly home: number;
  /** The targets at the ends of the card's hard window; ascending. */
  readonly windowLow: number;
  readonly windowHigh: number;
  /** Where the servo itself stops turning, as measured or else as its sheet says; null for one that turns on and on. */
  readonly stops: readonly [number, number] | null;
}

/** How far a dial can reach to either side of its top, in degrees. */
const furthestReachDeg = 150;

export function jointScaleOf(joint: Joint, card: ServoCard, map: JointMap): JointScale {
  const ends = [map.toTarget(card.window.low), map.toTarget(card.window.high)];
  const windowLow = Math.min(...ends);
  const windowHigh = Math.max(...ends);
  const common = { travelLow: map.lowTarget, travelHigh: map.highTarget, home: map.homeTarget, windowLow, windowHigh };
  if (joint.axis.kind === "spin" || card.kind === "continuous") return { centre: 0, reach: 1, stops: null, ...common };
  const { low, high } = card.endStops;
  // Measured stops where there are any; the data sheet's travel where nobody has looked.
  const stops = [
    low === null ? jointDegOf(joint.axis, 0) : map.toTarget(low),
    high === null ? jointDegOf(joint.axis, card.travelDeg) : map.toTarget(high),
  ] as const;
  const centre = jointDegOf(joint.axis, card.travelDeg / 2);
  const furthest = Math.max(card.travelDeg / 2, Math.abs(windowLow - centre), Math.abs(windowHigh - centre));
  return {
    centre,
    reach: Math.min(Math.max(furthest, 45), furthestReachDeg),
    stops: stops[0] < stops[1] ? stops : [stops[1], stops[0]],
    ...common,
  };
}
