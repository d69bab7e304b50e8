import { idSchema } from "@core/schema";
import * as z from "zod/mini";
import { type ControlKind, common, heldToMove } from "./controlKind";

/** Pushed along a line, either way up. */
const schema = z.strictObject({
  kind: z.literal("slider"),
  ...common,
  ...heldToMove,
  sourceId: idSchema,
  lowAt: z.enum(["bottom", "top", "left", "right"]),
});

export const slider: ControlKind<typeof schema> = {
  schema,
  name: "Slider",
  span: { wide: 1, high: 3 },
  works: ({ sourceId }) => ({ sourceIds: [sourceId] }),
};
