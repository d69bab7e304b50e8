import { homeTargetOf, type Joint } from "@core/project";
import { ghostNow } from "@stores/ghost";
import { liveJoint } from "@stores/live";

/** Where a joint really stands; of a real servo that nobody reads, where it was sent; and else at home. */
export function actualOf(joint: Joint): number {
  const seen = liveJoint(joint.id, "actual");
  if (Number.isFinite(seen)) return seen;
  const sent = liveJoint(joint.id, "isHeld") === 1 ? liveJoint(joint.id, "target") : Number.NaN;
  return Number.isFinite(sent) ? sent : homeTargetOf(joint);
}

/** Where the ghost has it, where there is one: a moment of a routine that does not play. */
export const ghostOrActual = (joint: Joint): number => ghostNow()?.[joint.id] ?? actualOf(joint);
