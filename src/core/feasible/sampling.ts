import { sampledMs } from "@core/power";
import { type Score, stepAt } from "@core/routine";

/** How finely a routine is looked at: a hobby servo is told something new this often. */
export const stepMs = sampledMs;
/** Rounding of sums and of samples must not make a finding. */
export const slack = 1.0005;
/** Findings of one kind that lie closer together are one. */
const mergeMs = 60;
/** No joint has more findings of a kind than this. */
export const mostOfAKind = 200;

/** Stretches of time in which a condition holds, as first and last sample, merged where they nearly touch. */
export function stretchesOf(length: number, holds: (at: number) => boolean, everyMs = stepMs): [number, number][] {
  const found: [number, number][] = [];
  for (let at = 0; at < length; at += 1) {
    if (!holds(at)) continue;
    const before = found.at(-1);
    if (before && (at - before[1]) * everyMs <= mergeMs) before[1] = at;
    else if (found.length < mostOfAKind) found.push([at, at]);
  }
  return found;
}

/** The largest of these numbers, or a floor where none is larger. */
export function largestOf(values: Float32Array, floor: number): number {
  let largest = floor;
  for (let at = 0; at < values.length; at += 1) if ((values[at] as number) > largest) largest = values[at] as number;
  return largest;
}

/** The step that lies under a moment, if it is one of the routine's moves. */
export function stepUnder(score: Score, atMs: number) {
  const span = score.spans[stepAt(score, atMs)];
  return span && atMs <= span.toMs ? span : undefined;
}
