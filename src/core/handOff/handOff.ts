import { byId, type Lead, type Project, type TakeLibrary } from "@core/project";
import { ok, problem, type Result } from "@core/result";
import { cFiles } from "./c/cFiles";
import type { HandedFile } from "./describe";
import { machineLeads, whyNotLead } from "./leads/machineLeads";
import { type Machine, machineOf } from "./machine";
import { checkLines, placesIn } from "./ownLines";
import { pythonFile } from "./python/pythonFile";
import { machineRoutine } from "./routines";
import { wholeBound } from "./whole/bound";
import { whyNotWhole } from "./whole/words";

export interface HandedOff {
  readonly files: readonly HandedFile[];
  readonly sums: Sums;
  /** What of the choice could not be taken along, by name, each with its reason. */
  readonly refused: readonly string[];
}

/** What is handed off, summed up. */
export interface Sums {
  readonly joints: number;
  readonly poses: number;
  readonly routines: number;
  readonly leads: number;
  readonly lines: number;
  readonly textBytes: number;
  /** Of the tables and of what changes while it runs, in C with 8 bytes a number and 4 an address. */
  readonly tableBytes: number;
  readonly memoryBytes: number;
  /** Of all routines, one way, at the frame rate of the quickest board. */
  readonly frames: number;
  /** What was reduced to keys is off by no more than this, in degrees; 0 where nothing was. */
  readonly worstError: number;
  /** In whole numbers: by how many counts any frame is off the bench's own, at most. */
  readonly worstCounts: number | null;
}

/** What of a project is taken along: everything that is not left out, and can be. */
export function chosenMachine(
  project: Project,
  takes: TakeLibrary,
): Result<{ readonly machine: Machine; readonly refused: readonly string[] }> {
  const out = new Set(project.handOff.leftOut);
  const taken = <Item extends { readonly id: string }>(items: readonly Item[]) =>
    items.filter(({ id }) => !out.has(id));
  const jointIds = taken(project.joints).map(({ id }) => id);
  const refused: string[] = [];
  const routineIds = taken(project.routines).flatMap((routine) => {
    const made = machineRoutine(project, routine, takes);
    if (made.ok && made.value.joints.length > 0) return [routine.id];
    refused.push(made.ok ? `${routine.name} moves nothing yet.` : made.problem);
    return [];
  });
  // A pose of nothing that is taken says nothing.
  const poseIds = taken(project.poses)
    .filter(({ targets }) => jointIds.some((id) => targets[id] !== undefined))
    .map(({ id }) => id);
  const machine = machineOf(project, { jointIds, poseIds, routineIds }, takes);
  if (!machine.ok) return machine;
  const leads = taken(project.leads).filter((lead) => !isMuted(project, lead));
  if (project.handOff.numbers === "whole") {
    if (leads.length > 0) refused.push("Leads are written in floating point only.");
    return ok({ machine: machine.value, refused });
  }
  const able = leads.filter((lead) => {
    const why = whyNotLead(project, lead, machine.value);
    if (why) refused.push(why);
    return why === null;
  });
  const led = machineLeads(project, able, machine.value);
  return led.ok ? ok({ machine: { ...machine.value, ...led.value }, refused }) : led;
}

/** Nobody expects of what is muted that it goes along. */
const isMuted = (project: Project, lead: Lead) => lead.isMuted || byId(project.sources, lead.sourceId).isMuted;

/** What a project hands off, as files. Fails in words where there is nothing, or where the own lines cannot be used. */
export function handOff(project: Project, takes: TakeLibrary): Result<HandedOff> {
  const { language, numbers, lines } = project.handOff;
  const own = lines[language];
  const chosen = chosenMachine(project, takes);
  if (!chosen.ok) return chosen;
  const { machine, refused } = chosen.value;
  const isUsable = checkLines(own, machine.boards);
  if (!isUsable.ok) return isUsable;
  const whyNot = numbers === "whole" ? whyNotWhole(machine, placesIn(own.set).includes("value")) : null;
  if (whyNot) return problem(whyNot);
  const files = language === "c" ? cFiles(machine, own, numbers) : [pythonFile(machine, own, numbers)];
  return ok({
    files,
    refused,
    sums: { ...sumsOf(machine, files), worstCounts: numbers === "whole" ? wholeBound(machine) : null },
  });
}

function sumsOf(machine: Machine, files: readonly HandedFile[]): Omit<Sums, "worstCounts"> {
  const { joints, poses, routines, frameMs } = machine;
  const sum = <Item>(items: readonly Item[], bytes: (item: Item) => number) =>
    items.reduce((all, item) => all + bytes(item), 0);
  const keys = sum(routines, ({ tracks }) => sum(tracks, (track) => track.keys.length));
  const knots = sum(joints, ({ curve }) => (curve.kind === "piecewise" ? curve.knots.length : 0));
  const steps = sum(routines, (routine) => routine.steps.length);
  const tracks = sum(routines, (routine) => routine.tracks.length);
  const most = (of: (routine: Machine["routines"][number]) => number) => Math.max(0, ...routines.map(of));
  return {
    joints: joints.length,
    poses: poses.length,
    routines: routines.length,
    leads: machine.leads.length,
    lines: sum(files, ({ text }) => text.split("\n").length),
    textBytes: sum(files, ({ text }) => new TextEncoder().encode(text).length),
    tableBytes:
      joints.length * 152 +
      knots * 16 +
      poses.length * joints.length * 8 +
      steps * 40 +
      keys * 32 +
      tracks * 12 +
      routines.length * 40,
    memoryBytes:
      joints.length * (32 + 32 + (machine.leads.length > 0 ? 32 : 0)) +
      machine.sources.length * 82 +
      machine.leads.length * 60 +
      most((routine) => routine.steps.length + 1) * 8 +
      most((routine) => routine.tracks.length) * 16 +
      100,
    frames: Math.round(sum(routines, ({ lengthMs }) => lengthMs / frameMs)),
    worstError: Math.max(0, ...routines.flatMap((routine) => routine.tracks.map(({ error }) => error))),
  };
}
