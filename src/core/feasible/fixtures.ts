import { demoProject } from "@core/demo";
import { byId, emptyRoutine, type Project, type Routine, type TakeLibrary } from "@core/project";
import { readyScore, type Score } from "@core/routine";
import { freshMove, type Step } from "@core/steps";
import { type Examination, examine } from "./examine";

// What the tests of this folder share.
export const demo = demoProject();
export const pose = (id: string, targets: Record<string, number>) => ({ id, name: id, group: "", targets });
/** The neck may turn at 240 °/s, ±80°; the beak has no limit but its servo's 60° in 0.14 s. */
export const bare: Project = {
  ...demo,
  poses: [pose("left", { "neck-turn": -60 }), pose("right", { "neck-turn": 60 }), pose("wide", { "neck-turn": 95 })],
  routines: [],
  conditions: [],
  supplies: [],
  rails: [],
  runs: [],
};
export const move = (id: string, poseId: string, moveMs: number, change: object = {}): Step =>
  ({ ...freshMove(id, poseId), pace: { kind: "time", moveMs }, ...change }) as Step;
export const none: TakeLibrary = new Map();
export function withRoutine(change: Partial<Routine>, project: Project = bare): { project: Project; routine: Routine } {
  const routine = { ...emptyRoutine("r", "R"), ...change };
  return { project: { ...project, routines: [routine] }, routine };
}
export function scoreIn(project: Project, takes = none): Score {
  const made = readyScore(project, byId(project.routines, "r"), takes);
  if (!made.ok) throw new Error(made.problem);
  return made.value;
}
export const look = (change: Partial<Routine>, among: Project = bare, takes = none): Examination => {
  const { project } = withRoutine(change, among);
  return examine(project, scoreIn(project, takes));
};
