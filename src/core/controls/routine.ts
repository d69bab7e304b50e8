import { idSchema } from "@core/schema";
import * as z from "zod/mini";
import { type ControlKind, common } from "./controlKind";

/** Plays a routine; touched again, it ends. */
const schema = z.strictObject({ kind: z.literal("routine"), ...common, routineId: idSchema });

export const routine: ControlKind<typeof schema> = {
  schema,
  name: "Routine",
  span: { wide: 2, high: 1 },
  works: ({ routineId }) => ({ routineId }),
};
