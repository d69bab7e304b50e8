import { idSchema } from "@core/schema";
import * as z from "zod/mini";
import { type ControlKind, common, heldToMove } from "./controlKind";

/** Two sources under one thumb; one that springs goes back to the middle of both. */
const schema = z.strictObject({
  kind: z.literal("stick"),
  ...common,
  ...heldToMove,
  acrossId: idSchema,
  upId: idSchema,
  springs: z.boolean(),
});

export const stick: ControlKind<typeof schema> = {
  schema,
  name: "Stick",
  span: { wide: 4, high: 3 },
  works: ({ acrossId, upId }) => ({ sourceIds: [acrossId, upId] }),
};
