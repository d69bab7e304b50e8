import { controlSchema } from "@core/controls";
import { type DeepReadonly, idSchema, labelSchema, listUpTo, textUpTo } from "@core/schema";
import * as z from "zod/mini";

/** A page for a phone: controls of this bench in the order in which they are laid out. */
export const padSchema = z.strictObject({
  id: idSchema,
  label: labelSchema,
  controls: listUpTo(controlSchema, 40),
});
export type Pad = DeepReadonly<z.infer<typeof padSchema>>;

/** What others may ask of this bench by messages. A release of everything they always may. */
export const outsideSchema = z.strictObject({
  /** What its topics and addresses begin with. */
  root: textUpTo(60).check(z.regex(/^[a-z0-9-]+(\/[a-z0-9-]+)*$/)),
  mayStop: z.boolean(),
  poseIds: listUpTo(idSchema, 2000),
  routineIds: listUpTo(idSchema, 500),
  /** It says how its joints and its routine stand. */
  saysStates: z.boolean(),
});
export type Outside = DeepReadonly<z.infer<typeof outsideSchema>>;

/** Until somebody says otherwise nobody may ask for anything. */
export const usualOutside: Outside = {
  root: "vantel/bench",
  mayStop: true,
  poseIds: [],
  routineIds: [],
  saysStates: true,
};
