import { between, idSchema, textUpTo } from "@core/schema";
import * as z from "zod/mini";
import { type ControlKind, common, heldToMove } from "./controlKind";

/** Some places of a source, each a touch away: left, middle, right. Each is a share of the source's range. */
const schema = z.strictObject({
  kind: z.literal("places"),
  ...common,
  ...heldToMove,
  sourceId: idSchema,
  places: z.array(z.strictObject({ label: textUpTo(16), share: between(0, 1) })).check(z.minLength(2), z.maxLength(8)),
});

export const places: ControlKind<typeof schema> = {
  schema,
  name: "Places",
  span: { wide: 4, high: 1 },
  works: ({ sourceId }) => ({ sourceIds: [sourceId] }),
};
