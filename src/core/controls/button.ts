import { idSchema } from "@core/schema";
import * as z from "zod/mini";
import { type ControlKind, common, heldToMove } from "./controlKind";

/** A press is on for a moment; a hold as long as the thumb is on it; a toggle stays. */
const schema = z.strictObject({
  kind: z.literal("button"),
  ...common,
  ...heldToMove,
  sourceId: idSchema,
  how: z.enum(["press", "hold", "toggle"]),
});

export const button: ControlKind<typeof schema> = {
  schema,
  name: "Button",
  span: { wide: 2, high: 1 },
  works: ({ sourceId }) => ({ sourceIds: [sourceId] }),
};
