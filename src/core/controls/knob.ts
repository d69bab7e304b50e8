import { idSchema } from "@core/schema";
import * as z from "zod/mini";
import { type ControlKind, common, heldToMove } from "./controlKind";

/** Turned from one end to the other. */
const schema = z.strictObject({ kind: z.literal("knob"), ...common, ...heldToMove, sourceId: idSchema });

export const knob: ControlKind<typeof schema> = {
  schema,
  name: "Knob",
  span: { wide: 2, high: 2 },
  works: ({ sourceId }) => ({ sourceIds: [sourceId] }),
};
