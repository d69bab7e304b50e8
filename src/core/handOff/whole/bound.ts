import { easingsUsed } from "../easingsUsed";
import type { Machine } from "../machine";
import { wholeEasing } from "./wholeEasing";
import { inWhole } from "./wholeJoint";

/** What the roundings of a way along a move, a lead-in and a speed limit come to, in the smallest steps of a target. */
const roundings = 8;

/**
 * By how many counts the whole numbers are off what the bench sends, in any frame of any routine: what is rounded on the way to a target, and then the target's own count. Where
 * something jumps at a time that is no whole ms it may do so a frame sooner or later.
 */
export function wholeBound(machine: Machine): number {
  const easings = easingsUsed(machine);
  // A share is rounded to 24 bits, and the curve is at most so steep.
  const shareError = Math.max(
    ...easings.map(({ easing, peakRate }) => wholeEasing(easing).error + Math.max(1, peakRate) * 2 ** -23),
  );
  const of = machine.joints.map((joint) => {
    const { whole, near } = inWhole(joint);
    const steepest = Math.max(...whole.lines.map(({ perTarget }) => Math.abs(perTarget))) / 2 ** (whole.shift + 16);
    const error = roundings + (joint.high - joint.low) * 2 ** whole.bits * shareError;
    return Math.max(near.counts, Math.floor(error * steepest) + 1);
  });
  return Math.max(...of);
}

/** The same in words. */
export function wholeWords(machine: Machine): string {
  const counts = wholeBound(machine);
  return `In whole numbers: no count is further than ${counts} from the bench's own.`;
}
