import type { Project, Routine, TakeLibrary } from "@core/project";
import { readyScore } from "@core/routine";
import type { Step } from "@core/steps";
import { reelAreasMm2 } from "./conductor";
import { courseOf, type PowerCourse } from "./course";
import { startMs } from "./draw";

/** Ways to ask less of the wiring, to be seen side by side. */
export const changes = {
  asIs: "As it is",
  staggered: "Starts one after another",
  slower: "Moves half as fast again as long",
  thicker: "Wires of twice the copper",
} as const;
export type Change = keyof typeof changes;

/** What comes of one of them. */
export interface Outcome {
  readonly change: Change;
  readonly lengthMs: number;
  /** By id: the most each supply gives, in A, and the least that reaches each servo, in V. */
  readonly mostA: Readonly<Record<string, number>>;
  readonly leastV: Readonly<Record<string, number>>;
  readonly resets: number;
}

/** Works through a routine as it is, and with each change; those that change nothing are left out. */
export function compared(project: Project, routineId: string, takes: TakeLibrary, charge: number): readonly Outcome[] {
  return (Object.keys(changes) as Change[]).flatMap((change) => {
    const other = withChange(project, routineId, change);
    if (other === project && change !== "asIs") return [];
    const routine = other.routines.find(({ id }) => id === routineId);
    const score = routine && readyScore(other, routine, takes);
    return score?.ok ? [outcomeOf(change, score.value.lengthMs, courseOf(other, score.value, { charge }))] : [];
  });
}

export function outcomeOf(change: Change, lengthMs: number, course: PowerCourse): Outcome {
  return {
    change,
    lengthMs,
    mostA: Object.fromEntries(course.supplies.map(({ supplyId, most }) => [supplyId, most.value])),
    leastV: Object.fromEntries(Object.entries(course.servos).map(([id, { least }]) => [id, least.value])),
    resets: Object.values(course.boards).reduce((sum, { resets }) => sum + resets.length, 0),
  };
}

/** The project with a change; the very same where there is nothing to change. */
export function withChange(project: Project, routineId: string, change: Change): Project {
  switch (change) {
    case "asIs":
      return project;
    case "staggered":
      return withMoves(project, routineId, (step) =>
        step.staggerMs > startMs ? step : { ...step, staggerMs: startMs + 20 },
      );
    case "slower":
      return withMoves(project, routineId, (step) =>
        step.pace.kind === "time"
          ? { ...step, pace: { ...step.pace, moveMs: Math.round(step.pace.moveMs * 1.5) } }
          : { ...step, pace: { ...step.pace, degPerS: step.pace.degPerS / 1.5 } },
      );
    case "thicker":
      return project.runs.length === 0
        ? project
        : {
            ...project,
            runs: project.runs.map((run) => ({
              ...run,
              areaMm2: reelAreasMm2.find((area) => area >= 1.9 * run.areaMm2) ?? 2 * run.areaMm2,
            })),
          };
  }
}

type Move = Extract<Step, { kind: "move" }>;

function withMoves(project: Project, routineId: string, changed: (step: Move) => Move): Project {
  let isOther = false;
  const routines = project.routines.map((routine): Routine => {
    if (routine.id !== routineId) return routine;
    const steps = routine.steps.map((step) => {
      const next = step.kind === "move" ? changed(step) : step;
      if (next !== step) isOther = true;
      return next;
    });
    return { ...routine, steps };
  });
  return isOther ? { ...project, routines } : project;
}
