import { countWithin } from "@core/encodings";
import { calmPerS, type GateLimits } from "./gate";

/** What a board may be holding, by channel: by the frame it last said it took (`heard`), and by those on their way besides. NaN where it has no signal. */
export interface MayStand {
  readonly heard: ArrayLike<number>;
  readonly lowest: ArrayLike<number>;
  readonly highest: ArrayLike<number>;
}

/** One channel that has a joint, as the last stage sees it. */
export interface StagedChannel {
  readonly channel: number;
  readonly limits: GateLimits;
  readonly isHeld: boolean;
}

const almost = 1e-6;

/**
 * The last stage before the bytes: it knows what a number means on its channel and what the board may be holding now, and lets nothing else pass, whatever
 * went wrong before it. `counts` stands in the order of `channels`, and is changed in place.
 *
 * - A released joint gets no signal.
 * - What a number makes lies within the hard window and within its travel limits. From outside, where those were drawn in around it, a joint only comes in.
 * - From whatever the board may be holding, the joint goes no further in one frame than its speed limit allows; the board's own
 *   rounding comes on top of it, one count at most.
 *
 * Gives how many numbers it had to change.
 */
export function lastStage(
  channels: readonly StagedChannel[],
  counts: Float64Array,
  { heard, lowest, highest }: MayStand,
  frameMs: number,
): number {
  let changes = 0;
  for (let at = 0; at < channels.length; at += 1) {
    const { channel, limits, isHeld } = channels[at] as StagedChannel;
    const asked = counts[at] as number;
    if (Number.isNaN(asked)) continue;
    const passed =
      isHeld && mayBegin(limits, asked, heard[channel] as number)
        ? through(limits, asked, lowest[channel] as number, highest[channel] as number, frameMs)
        : Number.NaN;
    if (passed === asked) continue;
    counts[at] = passed;
    changes += 1;
  }
  return changes;
}

/** A channel that has no signal, as far as the board has said, gets its first one within the travel: whatever was sent since may have been lost. */
const mayBegin = (limits: GateLimits, asked: number, heard: number): boolean =>
  !Number.isNaN(heard) || isInTravel(limits, limits.maker.toSetPoint(asked));

function through(limits: GateLimits, asked: number, lowest: number, highest: number, frameMs: number): number {
  const { map, maker, window, travel } = limits;
  const setPoint = maker.toSetPoint(asked);
  const isAWhole = Number.isInteger(asked) && asked >= maker.lowestCount && asked <= maker.highestCount;
  const [standsAt, mayStandAt] = [maker.toSetPoint(lowest), maker.toSetPoint(highest)];
  // Not further out than any place where it may stand.
  const low = Number.isNaN(lowest) ? window.low : Math.min(window.low, Math.max(standsAt, mayStandAt));
  const high = Number.isNaN(lowest) ? window.high : Math.max(window.high, Math.min(standsAt, mayStandAt));
  if (!isAWhole || !(setPoint >= low && setPoint <= high)) return Number.NaN;
  if (Number.isNaN(lowest)) return asked;
  const [one, other] = [map.toTarget(standsAt), map.toTarget(mayStandAt)];
  const isAway = [standsAt, mayStandAt].some((at) => at < window.low || at > window.high);
  // So it is with the travel; where that and the window have nothing in common, the window wins.
  const floor = isAway ? low : Math.max(low, Math.min(travel.low - almost, Math.max(standsAt, mayStandAt)));
  const ceiling = isAway ? high : Math.min(high, Math.max(travel.high + almost, Math.min(standsAt, mayStandAt)));
  const wanted = Math.max(floor, Math.min(ceiling, setPoint));
  const target = map.toTarget(wanted);
  // From outside the window it comes in calmly, also where the joint has no limit.
  const hasNoLimit = map.fastestPerS === Number.POSITIVE_INFINITY;
  const fastestPerS = isAway && hasNoLimit ? calmPerS[map.targetUnit] : map.fastestPerS;
  const step = (fastestPerS * frameMs) / 1000;
  // From the one end no further up, from the other no further down. Where it was last is always among what is left.
  const [from, to] = [Math.max(one, other) - step, Math.min(one, other) + step];
  const countUnits = Math.abs(map.toTarget(wanted + maker.step) - target);
  const isTooFar = target < from - countUnits - almost || target > to + countUnits + almost;
  if (!isTooFar && wanted === setPoint) return asked;
  const nearest = isTooFar ? map.toSetPoint(Math.max(from, Math.min(to, target))) : wanted;
  const nearer = countWithin(maker, nearest, floor, ceiling);
  return Number.isNaN(nearer) ? lowest : nearer;
}

const isInTravel = ({ travel }: GateLimits, setPoint: number): boolean =>
  setPoint >= travel.low - almost && setPoint <= travel.high + almost;
