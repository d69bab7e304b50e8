import * as z from "zod/mini";
import { type DeepReadonly, finite, idSchema, labelSchema, listUpTo, rangeSchema } from "./parts";

/** Anything that gives a number. Its live value is not part of the document; only its range is. */
export const sourceSchema = z.strictObject({
  id: idSchema,
  label: labelSchema,
  kind: z.literal("knob"),
  range: rangeSchema,
});

export const shaperSchema = z.discriminatedUnion("kind", [
  z.strictObject({
    kind: z.literal("rangeMap"),
    from: rangeSchema,
    /** May run downward: a reversed map. */
    to: z.strictObject({ low: finite, high: finite }),
  }),
]);

/** A path from a source to a joint through a chain of shapers, in order. */
export const leadSchema = z.strictObject({
  id: idSchema,
  sourceId: idSchema,
  jointId: idSchema,
  shapers: listUpTo(shaperSchema, 20),
});

export type Source = DeepReadonly<z.infer<typeof sourceSchema>>;
export type Shaper = DeepReadonly<z.infer<typeof shaperSchema>>;
export type Lead = DeepReadonly<z.infer<typeof leadSchema>>;
