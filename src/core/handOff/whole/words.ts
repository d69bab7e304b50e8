import type { Machine } from "../machine";
import { num } from "../numbers";
import type { Nearness } from "./wholeJoint";

/** How near whole numbers are, as a comment says it. */
export function nearWords({ counts, share, edges }: Nearness): string {
  if (counts === 0) return `the bench's own count at every target: ${edges} edges between counts were looked at`;
  const percent = num(Number((share * 100).toPrecision(2)));
  return `off by ${counts} count${counts === 1 ? "" : "s"} at most, on ${percent} % of the travel: ${edges} edges between counts were looked at`;
}

/** No target may be further from 0 than this: products of whole numbers have room for no more. */
const farthestDeg = 2000;

/** A slower speed would be none in whole numbers, which is no limit; a faster one would run over in the product with a frame's time. */
const slowestPerS = 1e-3;
const fastestOf = { deg: 100_000, spin: 500 } as const;

/** Why a machine cannot be written in whole numbers, or null. */
export function whyNotWhole({ joints, poses, routines }: Machine, usesValue: boolean): string | null {
  const far = joints.find(
    ({ low, high }, at) =>
      Math.max(Math.abs(low), Math.abs(high), ...poses.map(({ targets }) => Math.abs(targets[at] ?? 0))) > farthestDeg,
  );
  if (far)
    return `${far.label} goes beyond ${farthestDeg}°: in whole numbers there is no room for that. Write the code in floating point.`;
  const odd = joints.find(({ unit, fastestPerS, ratedPerS }) =>
    [fastestPerS, ratedPerS].some(
      (perS) => perS !== null && (perS < slowestPerS || perS > (unit === "°" ? fastestOf.deg : fastestOf.spin)),
    ),
  );
  if (odd)
    return `${odd.label} turns slower or faster than whole numbers have room for. Write the code in floating point.`;
  const long = routines.find(({ lengthMs }) => lengthMs > 3_600_000);
  if (long)
    return `${long.label} lasts longer than an hour: in whole numbers there is no room for that. Write the code in floating point.`;
  const typed = usesValue ? joints.find(({ counts }) => !Number.isInteger(counts.perCount)) : undefined;
  if (typed)
    return `What ${typed.board} takes for ${typed.label} is no whole number: put {count} or {pulse_us} in place of {value}, or write the code in floating point.`;
  return null;
}
