import { ok, problem, type Result } from "@core/result";
import { namedBy, type Step, stepSchema } from "@core/steps";
import type * as z from "zod/mini";
import { checkProject } from "../checkProject";
import type { Project } from "../project";
import { type Clip, clipSchema, type Key, type Lane, laneSchema, type Routine } from "../routine";
import { lengthOfTake } from "../take";
import { addItem, changeItem, type Edit, removeItem } from "./edit";
import { limitSentence } from "./limits";
import { withoutSteps } from "./withoutSteps";

export const addRoutine = (routine: Routine): Edit => ({
  name: "New routine",
  apply: (project) => addItem(project, "routines", routine),
});

/** Removes a routine, the steps of others that play it, and the leads that start it. */
export const removeRoutine = (routineId: string): Edit => ({
  name: "Delete routine",
  apply: (project) =>
    removeItem(
      {
        ...project,
        routines: project.routines.map((routine) =>
          withoutSteps(routine, (step) => namedBy(step).routineId === routineId),
        ),
        leads: project.leads.filter(
          ({ target }) =>
            !(target.kind === "action" && target.action.kind === "play" && target.action.routineId === routineId),
        ),
      },
      "routines",
      routineId,
    ),
});

type Settings = Pick<Routine, "repeat" | "isThereAndBack" | "atEnd" | "timetable" | "notes">;

/** How often it runs, how it ends, when it starts by itself. */
export const setRoutine = (routineId: string, what: string, change: Partial<Settings>): Edit => ({
  name: `Set ${what}`,
  mergeKey: `routine:${routineId}:${what}`,
  apply: (project) => changeItem(project, "routines", routineId, (routine) => ({ ...routine, ...change })),
});

/** Puts steps into the score before the one at this place. What they name must be on the bench, and no routine may play itself. */
export const insertSteps = (routineId: string, steps: readonly Step[], at: number, name = "Add step"): Edit => ({
  name,
  apply: (project) => {
    const changed = changeItem(project, "routines", routineId, (routine) => ({
      ...routine,
      steps: routine.steps.toSpliced(at, 0, ...steps),
    }));
    return changed.ok ? fitting(changed.value) : changed;
  },
});

/** Changes one step; `what` names it for undo. A number that no step may have is refused in words. */
export const changeStep = (routineId: string, stepId: string, what: string, change: (step: Step) => Step): Edit => ({
  name: `Change ${what}`,
  mergeKey: `step:${stepId}:${what}`,
  apply: (project) => {
    const routine = project.routines.find((one) => one.id === routineId);
    const step = routine?.steps.find((one) => one.id === stepId);
    if (!routine || !step) return problem("That step is no longer there.");
    const next = read<Step>(stepSchema, change(step));
    if (!next.ok) return next;
    const steps = routine.steps.map((one) => (one === step ? next.value : one));
    const changed = changeItem(project, "routines", routineId, () => ({ ...routine, steps }));
    return changed.ok && namedBy(next.value).routineId !== undefined ? fitting(changed.value) : changed;
  },
});

export const removeSteps = (routineId: string, stepIds: ReadonlySet<string>): Edit => ({
  name: stepIds.size > 1 ? `Remove ${stepIds.size} steps` : "Remove step",
  apply: (project) =>
    changeItem(project, "routines", routineId, (routine) => withoutSteps(routine, (step) => stepIds.has(step.id))),
});

/** Puts some steps, in their order, before the one that stands at a place now; past the end puts them last. */
export const placeSteps = (routineId: string, stepIds: ReadonlySet<string>, at: number): Edit => ({
  name: "Reorder steps",
  apply: (project) =>
    changeItem(project, "routines", routineId, (routine) => {
      const isTaken = (step: Step) => stepIds.has(step.id);
      const before = routine.steps.slice(0, at).filter((step) => !isTaken(step));
      const after = routine.steps.slice(at).filter((step) => !isTaken(step));
      const steps = [...before, ...routine.steps.filter(isTaken), ...after];
      return steps.every((step, place) => step === routine.steps[place]) ? routine : { ...routine, steps };
    }),
});

/** Puts routines as they are given in the place of those with the same ids. */
export const replaceRoutines = (routines: readonly Routine[], name: string): Edit => ({
  name,
  apply: (project) => {
    const given = new Map(routines.map((routine) => [routine.id, routine]));
    return ok({ ...project, routines: project.routines.map((routine) => given.get(routine.id) ?? routine) });
  },
});

/** Gives a joint's lane these keys, in any order; the later of two at one moment counts. None at all removes the lane. */
export const setKeys = (routineId: string, jointId: string, keys: readonly Key[], name = "Edit keys"): Edit => ({
  name,
  apply: (project) => changeLane(project, routineId, jointId, (lane) => ({ ...lane, keys: inOrder(keys) })),
});

export const setLaneMode = (routineId: string, jointId: string, mode: Lane["mode"]): Edit => ({
  name: mode === "add" ? "Lay the lane on top" : "Let the lane take the moves’ place",
  apply: (project) => changeLane(project, routineId, jointId, (lane) => ({ ...lane, mode })),
});

function inOrder(keys: readonly Key[]): Key[] {
  const sorted = keys.toSorted((a, b) => a.atMs - b.atMs);
  return sorted.filter((key, at) => key.atMs !== sorted[at + 1]?.atMs);
}

function changeLane(
  project: Project,
  routineId: string,
  jointId: string,
  change: (lane: Lane) => Lane,
): Result<Project> {
  const routine = project.routines.find((one) => one.id === routineId);
  if (!routine) return problem("That routine is no longer on the bench.");
  const before = routine.lanes.find((lane) => lane.jointId === jointId);
  const next = read<Lane>(laneSchema, change(before ?? { jointId, mode: "replace", keys: [] }));
  if (!next.ok) return next;
  const others = routine.lanes.filter((lane) => lane !== before);
  const lanes = next.value.keys.length > 0 ? [...others, next.value] : others;
  return changeItem(project, "routines", routineId, () => ({ ...routine, lanes }));
}

export const addClip = (routineId: string, clip: Clip): Edit => ({
  name: "Place take",
  apply: (project) => {
    const next = read<Clip>(clipSchema, clip);
    if (!next.ok) return next;
    const changed = changeItem(project, "routines", routineId, (routine) => ({
      ...routine,
      clips: [...routine.clips, next.value],
    }));
    return changed.ok ? fitting(changed.value) : changed;
  },
});

/** Changes one clip: where it lies, which part of the take, how it is stretched, faded and laid. */
export const changeClip = (routineId: string, clipId: string, what: string, change: (clip: Clip) => Clip): Edit => ({
  name: `Change ${what}`,
  mergeKey: `clip:${clipId}:${what}`,
  apply: (project) => {
    const clip = project.routines.find((one) => one.id === routineId)?.clips.find((one) => one.id === clipId);
    if (!clip) return problem("That clip is no longer there.");
    const next = read<Clip>(clipSchema, change(clip));
    if (!next.ok) return next;
    const take = project.takes.find((one) => one.id === next.value.takeId);
    if (!take) return problem("That take is no longer on the bench.");
    const { fromMs, toMs, stretch, fadeInMs, fadeOutMs } = next.value;
    if (fromMs >= toMs) return problem("A clip needs a part of its take, however short.");
    if (toMs > lengthOfTake(take)) return problem(`The take is only ${(lengthOfTake(take) / 1000).toFixed(2)} s long.`);
    if (fadeInMs + fadeOutMs > (toMs - fromMs) * stretch + 1e-6) return problem("The fades are longer than the clip.");
    return changeItem(project, "routines", routineId, (routine) => ({
      ...routine,
      clips: routine.clips.map((one) => (one === clip ? next.value : one)),
    }));
  },
});

/** Lays a clip above (+1) or under (−1) its neighbour. */
export const layClip = (routineId: string, clipId: string, by: -1 | 1): Edit => ({
  name: by > 0 ? "Lay clip higher" : "Lay clip lower",
  apply: (project) =>
    changeItem(project, "routines", routineId, (routine) => {
      const from = routine.clips.findIndex((one) => one.id === clipId);
      const clip = routine.clips[from];
      const to = from + by;
      if (!clip || to < 0 || to >= routine.clips.length) return routine;
      return { ...routine, clips: routine.clips.toSpliced(from, 1).toSpliced(to, 0, clip) };
    }),
});

export const removeClips = (routineId: string, clipIds: ReadonlySet<string>): Edit => ({
  name: "Remove clip",
  apply: (project) =>
    changeItem(project, "routines", routineId, (routine) => ({
      ...routine,
      clips: routine.clips.filter((clip) => !clipIds.has(clip.id)),
    })),
});

function read<Value>(schema: z.ZodMiniType, value: unknown): Result<Value> {
  const parsed = schema.safeParse(value);
  return parsed.success ? ok(parsed.data as Value) : problem(limitSentence(parsed.error.issues[0]));
}

function fitting(project: Project): Result<Project> {
  const checked = checkProject(project);
  return checked.ok ? checked : problem(checked.problem.replace(/^routines: /, ""));
}
