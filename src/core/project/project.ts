import { type DeepReadonly, idSchema, labelSchema, listUpTo } from "@core/schema";
import { meshSchema } from "@core/shapes";
import * as z from "zod/mini";
import { boardSchema } from "./board";
import { figureSchema, thingSchema } from "./figure";
import { handOffSchema } from "./handOff";
import { conditionSchema, jointSchema, rigSchema } from "./joint";
import { layoutSchema } from "./layout";
import { leadSchema } from "./lead";
import { outsideSchema, padSchema } from "./pad";
import { poseSchema } from "./pose";
import { railSchema, runSchema, supplySchema, tickedSchema } from "./power";
import { routineSchema } from "./routine";
import { servoCardSchema } from "./servoCard";
import { servoTruthSchema, simulatedDeviceSchema } from "./servoTruth";
import { sourceSchema } from "./source";
import { takeSchema } from "./take";

/** Files and stored projects carry this number; a change of shape raises it and adds a migration in `core/files`. */
export const schemaVersion = 12;

/** How many of each a project has room for. */
export const listCaps = {
  cards: 500,
  boards: 50,
  rigs: 50,
  joints: 200,
  sources: 200,
  leads: 400,
  poses: 2000,
  routines: 500,
  takes: 1000,
  conditions: 200,
  supplies: 50,
  rails: 100,
  runs: 400,
  simulated: 500,
  layouts: 50,
  simulatedDevices: 250,
  pads: 40,
  figures: 50,
  things: 200,
  meshes: 60,
} as const;

export const projectSchema = z.strictObject({
  id: idSchema,
  name: labelSchema,
  cards: listUpTo(servoCardSchema, listCaps.cards),
  boards: listUpTo(boardSchema, listCaps.boards),
  rigs: listUpTo(rigSchema, listCaps.rigs),
  joints: listUpTo(jointSchema, listCaps.joints),
  sources: listUpTo(sourceSchema, listCaps.sources),
  leads: listUpTo(leadSchema, listCaps.leads),
  poses: listUpTo(poseSchema, listCaps.poses),
  routines: listUpTo(routineSchema, listCaps.routines),
  takes: listUpTo(takeSchema, listCaps.takes),
  /** Joints that must not meet. */
  conditions: listUpTo(conditionSchema, listCaps.conditions),
  /** What feeds what: supplies, places where wires meet, and runs of wire between them. */
  supplies: listUpTo(supplySchema, listCaps.supplies),
  rails: listUpTo(railSchema, listCaps.rails),
  runs: listUpTo(runSchema, listCaps.runs),
  /** What of the switch-on check is done. */
  switchOn: listUpTo(tickedSchema, 1000),
  /** The simulated servos that stand in for real ones. A card without an entry gets one from its own data sheet. */
  simulated: listUpTo(servoTruthSchema, listCaps.simulated),
  /** Families of smart servos that were entered from a manual; those that every bench knows are not among them. */
  layouts: listUpTo(layoutSchema, listCaps.layouts),
  simulatedDevices: listUpTo(simulatedDeviceSchema, listCaps.simulatedDevices),
  /** How code is handed off. */
  handOff: handOffSchema,
  /** Pages for phones. */
  pads: listUpTo(padSchema, listCaps.pads),
  /** The machines themselves, one for a rig. */
  figures: listUpTo(figureSchema, listCaps.figures),
  /** What stands around them. */
  things: listUpTo(thingSchema, listCaps.things),
  /** Surfaces that were read from files. */
  meshes: listUpTo(meshSchema, listCaps.meshes),
  /** What others may ask of this bench by messages. */
  outside: outsideSchema,
});

/** The one immutable document on the bench. Every change of it is a named edit (see `edits/`). */
export type Project = DeepReadonly<z.infer<typeof projectSchema>>;

/** Something is asked for by an id that nothing has. */
export class GoneError extends Error {}

/**
 * The item with this id. In a document a missing id is a bug (`checkProject` refuses one whose references dangle); of an edit it says that what it was made
 * for is gone, and `applyEdit` makes a sentence of it.
 */
export function byId<T extends { readonly id: string }>(items: readonly T[], id: string): T {
  const found = items.find((item) => item.id === id);
  if (!found) throw new GoneError(`There is nothing with the id ${id}.`);
  return found;
}
