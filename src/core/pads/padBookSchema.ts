import { controlSchema } from "@core/controls";
import { type DeepReadonly, finite, idSchema, labelSchema, listUpTo, textUpTo } from "@core/schema";
import * as z from "zod/mini";

/** All that a pad has to know of a bench to draw itself, and a door to know what a control can move. */
export const padBookSchema = z.strictObject({
  project: labelSchema,
  /** Those that some control can move. */
  joints: listUpTo(
    z.strictObject({ id: idSchema, label: labelSchema, unit: textUpTo(4), low: finite, high: finite }),
    200,
  ),
  sources: listUpTo(z.strictObject({ id: idSchema, isSwitch: z.boolean() }), 200),
  pads: listUpTo(
    z.strictObject({
      id: idSchema,
      label: labelSchema,
      controls: listUpTo(
        z.strictObject({
          control: controlSchema,
          /** What it is called: by its own label, or by what it works. */
          label: textUpTo(80),
          reaches: listUpTo(idSchema, 200),
        }),
        40,
      ),
    }),
    40,
  ),
});
export type PadBook = DeepReadonly<z.infer<typeof padBookSchema>>;
export type BookedPad = PadBook["pads"][number];
export type BookedControl = BookedPad["controls"][number];
