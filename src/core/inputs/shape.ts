import type { Range, Shaper } from "@core/project";

/** A chain of shapers as one function from a source's number to a target. Made once when the document changes. */
export function shapingOf(shapers: readonly Shaper[]): (value: number) => number {
  const stages = shapers.map((shaper) => rangeMapOf(shaper.from, shaper.to));
  return (value) => stages.reduce((shaped, stage) => stage(shaped), value);
}

/**
 * Stretches one range onto another; what lies outside `from` stays at the nearer end.
 * `to` may run downward, which reverses the movement.
 */
function rangeMapOf(from: Range, to: { readonly low: number; readonly high: number }) {
  return (value: number) => {
    const share = Math.min(Math.max((value - from.low) / (from.high - from.low), 0), 1);
    return to.low + share * (to.high - to.low);
  };
}
