import { problem } from "@core/result";
import { byId } from "../project";
import type { Routine, Step } from "../routine";
import { addItem, changeItem, type Edit, removeItem } from "./edit";

export const addRoutine = (routine: Routine): Edit => ({
  name: "New routine",
  apply: (project) => addItem(project, "routines", routine),
});

export const removeRoutine = (routineId: string): Edit => ({
  name: "Delete routine",
  apply: (project) =>
    removeItem(
      {
        ...project,
        leads: project.leads.filter(
          ({ target }) =>
            !(target.kind === "action" && target.action.kind === "play" && target.action.routineId === routineId),
        ),
      },
      "routines",
      routineId,
    ),
});

export const setLoop = (routineId: string, loop: boolean): Edit => ({
  name: loop ? "Loop routine" : "Play routine once",
  apply: (project) => changeItem(project, "routines", routineId, (routine) => ({ ...routine, loop })),
});

export const addStep = (routineId: string, step: Step): Edit => ({
  name: "Add move",
  apply: (project) => {
    byId(project.poses, step.poseId);
    return changeItem(project, "routines", routineId, (routine) => ({ ...routine, steps: [...routine.steps, step] }));
  },
});

/** Changes a move's pose, times (ms) or easing. */
export const changeStep = (routineId: string, stepId: string, change: Partial<Omit<Step, "id" | "kind">>): Edit => ({
  name: "Change move",
  mergeKey: `step:${stepId}:${Object.keys(change).join()}`,
  apply: (project) => {
    const times = [change.moveMs, change.holdMs].filter((time) => time !== undefined);
    if (times.some((time) => !(time >= 0 && time <= 3_600_000)))
      return problem("A move or a hold lasts from 0 s to one hour.");
    return changeItem(project, "routines", routineId, (routine) => ({
      ...routine,
      steps: routine.steps.map((step) => (step.id === stepId ? { ...step, ...change } : step)),
    }));
  },
});

export const removeStep = (routineId: string, stepId: string): Edit => ({
  name: "Remove move",
  apply: (project) =>
    changeItem(project, "routines", routineId, (routine) => ({
      ...routine,
      steps: routine.steps.filter((step) => step.id !== stepId),
    })),
});

/** Moves a step up (−1) or down (+1) in the score; at an end it stays. */
export const shiftStep = (routineId: string, stepId: string, by: -1 | 1): Edit => ({
  name: "Reorder moves",
  apply: (project) =>
    changeItem(project, "routines", routineId, (routine) => {
      const from = routine.steps.findIndex((step) => step.id === stepId);
      const to = from + by;
      const step = routine.steps[from];
      if (!step || to < 0 || to >= routine.steps.length) return routine;
      return { ...routine, steps: routine.steps.toSpliced(from, 1).toSpliced(to, 0, step) };
    }),
});
