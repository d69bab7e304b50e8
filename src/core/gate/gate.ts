import { countWithin, type SignalMaker } from "@core/encodings";
import type { Range } from "@core/project";
import type { JointMap } from "@core/rig";

/** Why the gate let something other than the wish through. The numbers travel in the live snapshot. */
export const heldBack = {
  nothing: 0,
  travelLow: 1,
  travelHigh: 2,
  window: 3,
  speed: 4,
  notANumber: 5,
  noSignal: 6,
} as const;
export type HeldBack = (typeof heldBack)[keyof typeof heldBack];

/** What the gate says about each reason, to follow the name of a joint. */
export const heldBackWords: Readonly<Record<HeldBack, string>> = {
  [heldBack.nothing]: "",
  [heldBack.travelLow]: "held at its lower travel limit",
  [heldBack.travelHigh]: "held at its upper travel limit",
  [heldBack.window]: "held at the edge of its servo’s hard window",
  [heldBack.speed]: "slowed to its speed limit",
  [heldBack.notANumber]: "kept in place: what was asked is not a number",
  [heldBack.noSignal]: "not driven: its board can make no signal inside its limits",
};

/** What one joint may do. Made once when the document changes. */
export interface GateLimits {
  readonly map: JointMap;
  readonly maker: SignalMaker;
  /** The card's hard window, in set points. */
  readonly window: Range;
  /** The joint's travel limits, in set points; without end while it is calibrated. */
  readonly travel: Range;
}

/** The limits of a joint on a channel of its board. */
export const gateLimits = (map: JointMap, maker: SignalMaker, window: Range): GateLimits => {
  const ends = [map.toSetPoint(map.lowTarget), map.toSetPoint(map.highTarget)];
  return { map, maker, window, travel: { low: Math.min(...ends), high: Math.max(...ends) } };
};

/** The same without travel limits: while a servo is calibrated its angles mean nothing yet. */
export const openLimits = (limits: GateLimits): GateLimits => ({
  ...limits,
  map: { ...limits.map, lowTarget: Number.NEGATIVE_INFINITY, highTarget: Number.POSITIVE_INFINITY },
  travel: { low: Number.NEGATIVE_INFINITY, high: Number.POSITIVE_INFINITY },
});

/** What left the gate for one joint at the last tick. */
export interface GatePassage {
  /** The target that was let through; where the next step starts from. */
  target: number;
  /** What goes to the board; NaN is no signal. */
  count: number;
  /** The set point the board makes of the count; NaN is no signal. */
  setPoint: number;
  heldBack: HeldBack;
}

/** How fast a joint comes back inside limits that were drawn in around it, where it has no speed limit of its own. */
export const calmPerS: Readonly<Record<JointMap["targetUnit"], number>> = { "°": 60, spin: 1 };
/** Set points are worked out with fractions; a number that is right but for its last digits counts as inside. */
const almost = 1e-6;

/**
 * The stage that every wish passes. Lets one joint's wish through as far as it is safe, and writes what left into
 * `passage`, whose `target` on entry is where the joint stands.
 *
 * - A wish that is not a number changes nothing.
 * - The target stays within the travel limits, and so does the signal after the board's own rounding: it is rounded inwards. If the limits were drawn
 *   in around a joint that stands outside them, it comes in at its speed limit, calmly where it has none, and never goes further out.
 * - No step is faster than the joint's speed limit.
 * - The signal, after the board's own rounding, stays inside the hard window. Where the window was drawn in around a joint that is driven, it comes in
 *   at the same pace, and no signal goes further out.
 */
export function passGate(limits: GateLimits, wish: number, dtMs: number, passage: GatePassage): void {
  const { map, maker, window, travel } = limits;
  let reason: HeldBack = heldBack.nothing;
  let target = wish;
  if (!Number.isFinite(wish)) {
    target = passage.target;
    reason = heldBack.notANumber;
  }
  if (target < map.lowTarget) {
    target = map.lowTarget;
    reason = heldBack.travelLow;
  } else if (target > map.highTarget) {
    target = map.highTarget;
    reason = heldBack.travelHigh;
  }
  // A window that was drawn in around a driven joint: it comes in from where it stands, and goes no further out.
  const isAway = passage.setPoint < window.low || passage.setPoint > window.high;
  const wished = map.toSetPoint(target);
  if (isAway && (wished < window.low || wished > window.high)) {
    target = map.toTarget(wished < window.low ? window.low : window.high);
    reason = heldBack.window;
  }
  const stoodOutside = isAway || passage.target < map.lowTarget || passage.target > map.highTarget;
  const hasNoLimit = map.fastestPerS === Number.POSITIVE_INFINITY;
  const fastestPerS = stoodOutside && hasNoLimit ? calmPerS[map.targetUnit] : map.fastestPerS;
  const largestStep = (fastestPerS * dtMs) / 1000;
  const step = target - passage.target;
  if (Math.abs(step) > largestStep) {
    target = passage.target + Math.sign(step) * largestStep;
    reason ||= heldBack.speed;
  }
  let setPoint = map.toSetPoint(target);
  const lowest = isAway ? Math.min(window.low, passage.setPoint) : window.low;
  const highest = isAway ? Math.max(window.high, passage.setPoint) : window.high;
  if (setPoint < lowest || setPoint > highest) {
    setPoint = setPoint < lowest ? lowest : highest;
    target = map.toTarget(setPoint);
    reason = heldBack.window;
  }
  const isInside = !isAway && target >= map.lowTarget && target <= map.highTarget;
  const low = isInside ? Math.max(lowest, travel.low - almost) : lowest;
  const high = isInside ? Math.min(highest, travel.high + almost) : highest;
  const count = countWithin(maker, setPoint, low, high);
  if (Number.isNaN(count)) {
    passage.count = Number.NaN;
    passage.setPoint = Number.NaN;
    passage.heldBack = heldBack.noSignal;
    return;
  }
  passage.target = target;
  passage.count = count;
  passage.setPoint = maker.toSetPoint(count);
  passage.heldBack = reason;
}
