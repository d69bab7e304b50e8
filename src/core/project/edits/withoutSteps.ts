import type { Step } from "@core/steps";
import type { Routine } from "../routine";

/** The same routine without some of its steps; itself where it has none of them. */
export function withoutSteps(routine: Routine, isGone: (step: Step) => boolean): Routine {
  return routine.steps.some(isGone) ? { ...routine, steps: routine.steps.filter((step) => !isGone(step)) } : routine;
}
