import { problem, type Result } from "@core/result";
import type * as z from "zod/mini";
import { type Board, longestFrameLine } from "../board";
import { checkProject } from "../checkProject";
import { reservedLayoutIds } from "../layout";
import { withoutLostControls } from "../lostControls";
import { withoutLostFigures, withoutUnusedMeshes } from "../lostFigures";
import { withoutLostRuns } from "../lostRuns";
import { GoneError, listCaps, type Project, projectSchema } from "../project";
import { mostSteps } from "../routine";
import type { Edit } from "./edit";
import { limitSentence } from "./limits";

/**
 * The one door to the document: transforms it, and lets the change in only if the whole could be read again. What an edit changed is held against the
 * schema and its caps, and all references are followed; what did not change is not looked at again. A refusal is a sentence, and changes nothing.
 */
export function applyEdit(edit: Edit, project: Project): Result<Project> {
  const changed = applied(edit, project);
  if (!changed.ok || changed.value === project) return changed;
  // Whatever was taken away: a control that worked it goes with it, and so do its wires; a figure lets go of it.
  const after = withoutLostRuns(withoutUnusedMeshes(withoutLostFigures(withoutLostControls(changed.value))));
  return checkShape(project, after) ?? checkWiring(project, after) ?? checkProject(after);
}

function applied(edit: Edit, project: Project): Result<Project> {
  try {
    return edit.apply(project);
  } catch (error) {
    // A view that is a moment behind asks for what has just been removed.
    if (error instanceof GoneError) return problem("That is no longer on the bench. Nothing was changed.");
    throw error;
  }
}

type ListName = keyof typeof listCaps;
const isList = (name: string): name is ListName => Object.hasOwn(listCaps, name);

function checkShape(before: Project, after: Project) {
  for (const name of Object.keys(projectSchema.shape) as (keyof Project)[]) {
    const value = after[name];
    if (value === before[name]) continue;
    const schema = projectSchema.shape[name] as z.ZodMiniType;
    if (!isList(name)) {
      const read = schema.safeParse(value);
      if (!read.success) return problem(limitSentence(read.error.issues[0]));
      continue;
    }
    const [items, old] = [value as readonly unknown[], new Set<unknown>(before[name] as readonly unknown[])];
    const cap = listCaps[name];
    if (items.length > cap) return problem(`A project has room for ${cap} ${listWords[name]}.`);
    const fresh = items.filter((item) => !old.has(item));
    if (name === "routines" && (fresh as Project["routines"]).some(({ steps }) => steps.length > mostSteps))
      return problem(`A routine has room for ${mostSteps} steps.`);
    const read = schema.safeParse(name === "routines" ? fresh.map((one) => lightened(one, before)) : fresh);
    if (!read.success) return problem(limitSentence(read.error.issues[0]));
  }
  return null;
}

/** A routine without the steps and the keys of lanes that stood there already: an hour of score is not read anew at every step of a drag. */
function lightened(item: unknown, before: Project): unknown {
  const routine = item as Project["routines"][number];
  const old = before.routines.find(({ id }) => id === routine.id);
  const [steps, lanes] = [new Set(old?.steps), new Set(old?.lanes)];
  return {
    ...routine,
    steps: routine.steps.filter((step) => !steps.has(step)),
    lanes: routine.lanes.map((lane) => (lanes.has(lane) ? { ...lane, keys: [] } : lane)),
  };
}

/** What could be opened again, but not be sent. Only what an edit brings about is refused: an older file that has it still opens, and can be edited. */
function checkWiring(before: Project, after: Project) {
  const stray = strayDevice(after);
  if (stray && !strayDevice(before))
    return problem(`${stray.label} is of a family that would be gone. Take it off the table first.`);
  if (after.boards === before.boards && after.joints === before.joints) return null;
  for (const board of after.boards) {
    const old = before.boards.find(({ id }) => id === board.id);
    const trouble = boardTrouble(board, after);
    if (trouble && !(old && boardTrouble(old, before))) return problem(trouble);
  }
  return null;
}

function strayDevice({ layouts, simulatedDevices }: Project) {
  const families = new Set([...reservedLayoutIds, ...layouts.map(({ id }) => id)]);
  return simulatedDevices.find((one) => !families.has(one.layoutId));
}

/** Why a board could not be sent what its joints need, in a sentence; null where it could. */
function boardTrouble(board: Board, { joints }: Project): string | null {
  const channels = joints.filter((joint) => joint.boardId === board.id).map(({ channel }) => channel);
  const line = longestFrameLine(board, channels);
  if (line > longestLine)
    return `A frame for the ${channels.length} joints on ${board.label} would be a line of ${line} bytes, and the link carries ${longestLine}. Put some of them on another board.`;
  const twoFramesMs = 2000 / Math.min(...board.frameHz);
  if (board.encoding.kind !== "bus" && board.silence.afterMs < twoFramesMs)
    return `${board.label} would count ${board.silence.afterMs} ms without a frame as silence, and two of its frames take ${Math.ceil(twoFramesMs)} ms. Make its frames quicker.`;
  return null;
}

/** As the link protocol has it, its end included. */
const longestLine = 1024;

const listWords: Readonly<Record<ListName, string>> = {
  cards: "servo cards",
  boards: "boards",
  rigs: "rigs",
  joints: "joints",
  sources: "sources",
  leads: "leads",
  poses: "poses",
  routines: "routines",
  takes: "takes",
  conditions: "pairs that must not meet",
  supplies: "supplies",
  rails: "rails",
  runs: "runs of wire",
  simulated: "simulated servos",
  layouts: "families",
  simulatedDevices: "simulated devices",
  pads: "pads",
  figures: "figures",
  things: "things around",
  meshes: "meshes",
};
