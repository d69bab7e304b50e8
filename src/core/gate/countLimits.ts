import { countWithin } from "@core/encodings";
import type { ChannelLimits } from "@core/link";
import type { GateLimits } from "./gate";

/** The steepest part of a calibration is looked for in so many places of its window. */
const places = 512;
/** Rounding at both ends of a step, and what a steep part between two places may add. */
const spareCounts = 2;
const spareShare = 1.05;

/**
 * What a board is told to hold a channel to, besides the gate: the counts that the hard window allows, and the largest change from one frame to the
 * next that the joint's speed limit can ask for. Travel limits rest while a servo is measured, and stay with the gate. Null where no count lies in the
 * window.
 */
export function countLimits(
  channel: number,
  { map, maker, window }: GateLimits,
  frameMs: number,
): ChannelLimits | null {
  const ends = [window.low, window.high].map((setPoint) => countWithin(maker, setPoint, window.low, window.high));
  const [lowest, highest] = [Math.min(...ends), Math.max(...ends)];
  if (Number.isNaN(lowest)) return null;
  const most = (map.fastestPerS * frameMs) / 1000;
  if (!Number.isFinite(most)) return { channel, lowest, highest, step: maker.highestCount };
  const width = (window.high - window.low) / places;
  let steepest = 0;
  for (let at = 0; at < places; at += 1) {
    const from = window.low + at * width;
    const turn = Math.abs(map.toTarget(from + width) - map.toTarget(from));
    steepest = Math.max(steepest, turn > 0 ? width / turn : Number.POSITIVE_INFINITY);
  }
  const counts = Math.ceil((most * steepest * spareShare) / maker.step) + spareCounts;
  return { channel, lowest, highest, step: Math.min(counts, maker.highestCount) };
}
