import { idSchema } from "@core/schema";
import * as z from "zod/mini";
import { type OriginKind, thousand } from "./originKind";

/** One axis of a stick; both share an id. */
const schema = z.strictObject({
  kind: z.literal("stick"),
  stickId: idSchema,
  axis: z.enum(["x", "y"]),
  springs: z.boolean(),
});

export const stick: OriginKind<typeof schema> = {
  schema,
  name: "Stick, two axes",
  begin: (newId) => {
    const stickId = newId();
    return [
      { origin: { kind: "stick", stickId, axis: "x", springs: true }, range: thousand, part: "across" },
      { origin: { kind: "stick", stickId, axis: "y", springs: true }, range: thousand, part: "up" },
    ];
  },
  words: ({ axis }) => (axis === "x" ? "stick, across" : "stick, up"),
  partnersKey: ({ stickId }) => stickId,
};
