import * as z from "zod/mini";
import { boardSchema } from "./board";
import { conditionSchema, jointSchema, rigSchema, supplySchema } from "./joint";
import { layoutSchema } from "./layout";
import { leadSchema } from "./lead";
import { type DeepReadonly, idSchema, labelSchema, listUpTo } from "./parts";
import { poseSchema } from "./pose";
import { routineSchema } from "./routine";
import { servoCardSchema } from "./servoCard";
import { servoTruthSchema, simulatedDeviceSchema } from "./servoTruth";
import { sourceSchema } from "./source";
import { takeSchema } from "./take";

/** Files and stored projects carry this number; a change of shape raises it and adds a migration in `core/files`. */
export const schemaVersion = 5;

export const projectSchema = z.strictObject({
  id: idSchema,
  name: labelSchema,
  cards: listUpTo(servoCardSchema, 500),
  boards: listUpTo(boardSchema, 50),
  rigs: listUpTo(rigSchema, 50),
  joints: listUpTo(jointSchema, 200),
  sources: listUpTo(sourceSchema, 200),
  leads: listUpTo(leadSchema, 400),
  poses: listUpTo(poseSchema, 2000),
  routines: listUpTo(routineSchema, 500),
  takes: listUpTo(takeSchema, 1000),
  /** Joints that must not meet. */
  conditions: listUpTo(conditionSchema, 200),
  supplies: listUpTo(supplySchema, 50),
  /** The simulated servos that stand in for real ones. A card without an entry gets one from its own data sheet. */
  simulated: listUpTo(servoTruthSchema, 500),
  /** Families of smart servos that were entered from a manual; those that every bench knows are not among them. */
  layouts: listUpTo(layoutSchema, 50),
  simulatedDevices: listUpTo(simulatedDeviceSchema, 250),
});

/** The one immutable document on the bench. Every change of it is a named edit (see `edits/`). */
export type Project = DeepReadonly<z.infer<typeof projectSchema>>;

/** The item with this id. A missing id is a bug: `checkProject` refuses documents whose references dangle. */
export function byId<T extends { readonly id: string }>(items: readonly T[], id: string): T {
  const found = items.find((item) => item.id === id);
  if (!found) throw new Error(`There is nothing with the id ${id}.`);
  return found;
}
