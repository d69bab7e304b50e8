import type { Routine } from "@core/project";
import { liveHead } from "@stores/live";

/** How far the playing round has come, in ms: the moves that are over and the time in the current one. */
export function elapsedInRound(routine: Routine): number {
  const moveIndex = liveHead("moveIndex");
  const before = routine.steps.slice(0, moveIndex).reduce((sum, step) => sum + step.moveMs + step.holdMs, 0);
  return before + liveHead("elapsedMs");
}
