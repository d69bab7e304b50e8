import { everyChangeCounts, makesItself } from "@core/origins";
import {
  byId,
  isSteady,
  type Joint,
  type Lead,
  type Pose,
  type Project,
  type Routine,
  type Source,
  tipOf,
} from "@core/project";
import { ok, problem, type Result } from "@core/result";
import { othersOf, type Shaper } from "@core/shapers";
import { namesFor } from "../names";

/** Something that gives a number, as code has it: it is fed. */
export interface MachineSource {
  readonly id: string;
  readonly label: string;
  readonly name: string;
  readonly low: number;
  readonly high: number;
  /** It goes on by itself: its leads take only what nobody has. */
  readonly isSteady: boolean;
  /** Of a switch each change counts, one a tick. */
  readonly everyChangeCounts: boolean;
}

export type MachineAction =
  | { readonly kind: "goToPose"; readonly pose: number; readonly moveMs: number }
  | { readonly kind: "play"; readonly routine: number }
  | { readonly kind: "stop" }
  | { readonly kind: "release" };

export interface MachineLead {
  readonly label: string;
  readonly source: number;
  readonly isSteady: boolean;
  readonly shapers: readonly Shaper[];
  /** The other sources that its chain listens to, by their places. */
  readonly others: readonly number[];
  /** What its joints get at 0 and at 1 of what comes out. */
  readonly aims: readonly { readonly joint: number; readonly atZero: number; readonly atOne: number }[];
  /** What it does each time it switches on; null where it moves joints. */
  readonly action: MachineAction | null;
}

export interface MachineLeads {
  readonly sources: readonly MachineSource[];
  readonly leads: readonly MachineLead[];
}

/** What a lead may lead to: what is taken along. */
export interface Taken {
  readonly joints: readonly Pick<Joint, "id">[];
  readonly poses: readonly Pick<Pose, "id">[];
  readonly routines: readonly Pick<Routine, "id">[];
}

/** A lead in words: `Bench knob to Neck turn`. */
export function leadWords(project: Project, lead: Lead): string {
  const source = byId(project.sources, lead.sourceId).label;
  const { target } = lead;
  if (target.kind === "joint") return `${source} to ${byId(project.joints, target.jointId).label}`;
  if (target.kind === "blend")
    return `${source} between ${byId(project.poses, target.fromPoseId).name} and ${byId(project.poses, target.toPoseId).name}`;
  if (target.kind === "tip") return `${source} to ${tipOf(project, target.tipId)?.tip.label ?? "a tip"}`;
  const { action } = target;
  if (action.kind === "goToPose") return `${source} to pose ${byId(project.poses, action.poseId).name}`;
  return action.kind === "play"
    ? `${source} plays ${byId(project.routines, action.routineId).name}`
    : `${source}: ${action.kind}`;
}

/** Why a lead cannot be taken along, in words; null where it can. */
export function whyNotLead(project: Project, lead: Lead, taken: Taken): string | null {
  const words = leadWords(project, lead);
  const source = byId(project.sources, lead.sourceId);
  const heard = [source, ...othersOf(lead.shapers).map((id) => byId(project.sources, id))];
  const wave = heard.find(({ origin }) => makesItself(origin) && origin.kind === "wave");
  if (wave) return `${words}: ${wave.label} is a wave that only the bench makes.`;
  const has = (items: readonly { readonly id: string }[], id: string) => items.some((one) => one.id === id);
  const { target } = lead;
  if (target.kind === "action") {
    const { action } = target;
    if (action.kind === "goToPose") return has(taken.poses, action.poseId) ? null : `${words}: the pose is left out.`;
    if (action.kind === "play")
      return has(taken.routines, action.routineId) ? null : `${words}: the routine is left out.`;
    return action.kind === "stop" || action.kind === "release"
      ? null
      : `${words}: code cannot ${action.kind === "cue" ? "say a cue" : action.kind}.`;
  }
  if (target.kind === "tip")
    return `${words}: code cannot work out joints from a place. Record a take of it, and hand off a routine with that.`;
  const moved = jointsOf(project, target);
  const missing = moved.find(({ id }) => !has(taken.joints, id));
  if (missing) return `${words}: ${missing.label} is left out.`;
  const other = moved.find(({ control }) => control.takes !== "touch" || control.giveBackMs !== null);
  return other
    ? `${words}: in code who moves last has ${other.label}; on the bench it goes by an order, or is given back.`
    : null;
}

function jointsOf(project: Project, target: Exclude<Lead["target"], { kind: "action" | "tip" }>): readonly Joint[] {
  if (target.kind === "joint") return [byId(project.joints, target.jointId)];
  const [from, to] = [byId(project.poses, target.fromPoseId).targets, byId(project.poses, target.toPoseId).targets];
  return project.joints.filter(({ id }) => from[id] !== undefined && to[id] !== undefined);
}

/** The leads as code needs them, with the sources that they listen to. Fails by name where one cannot be taken along. */
export function machineLeads(project: Project, leads: readonly Lead[], taken: Taken): Result<MachineLeads> {
  for (const lead of leads) {
    const why = whyNotLead(project, lead, taken);
    if (why) return problem(why);
  }
  const ids = new Set(leads.flatMap(({ sourceId, shapers }) => [sourceId, ...othersOf(shapers)]));
  const heard = project.sources.filter(({ id }) => ids.has(id));
  const names = namesFor(
    heard.map(({ label }) => label),
    "source",
  );
  const place = (items: readonly { readonly id: string }[], id: string) => items.findIndex((one) => one.id === id);
  return ok({
    sources: heard.map((source: Source, at) => ({
      id: source.id,
      label: source.label,
      name: names[at] as string,
      low: source.range.low,
      high: source.range.high,
      isSteady: isSteady(source),
      everyChangeCounts: everyChangeCounts(source.origin),
    })),
    leads: leads.map((lead) => ({
      label: leadWords(project, lead),
      source: place(heard, lead.sourceId),
      isSteady: isSteady(byId(project.sources, lead.sourceId)),
      shapers: lead.shapers,
      others: othersOf(lead.shapers).map((id) => place(heard, id)),
      aims: aimsOf(project, lead, taken.joints),
      action: actionOf(lead, taken),
    })),
  });
}

function aimsOf(project: Project, { target }: Lead, joints: Taken["joints"]): MachineLead["aims"] {
  if (target.kind === "action" || target.kind === "tip") return [];
  const place = (id: string) => joints.findIndex((one) => one.id === id);
  if (target.kind === "joint") return [{ joint: place(target.jointId), atZero: 0, atOne: 1 }];
  const [from, to] = [byId(project.poses, target.fromPoseId).targets, byId(project.poses, target.toPoseId).targets];
  return jointsOf(project, target).map(({ id }) => ({
    joint: place(id),
    atZero: from[id] as number,
    atOne: to[id] as number,
  }));
}

function actionOf({ target }: Lead, taken: Taken): MachineAction | null {
  if (target.kind !== "action") return null;
  const { action } = target;
  const place = (items: readonly { readonly id: string }[], id: string) => items.findIndex((one) => one.id === id);
  if (action.kind === "goToPose")
    return { kind: "goToPose", pose: place(taken.poses, action.poseId), moveMs: action.moveMs };
  if (action.kind === "play") return { kind: "play", routine: place(taken.routines, action.routineId) };
  return action.kind === "release" ? { kind: "release" } : { kind: "stop" };
}
