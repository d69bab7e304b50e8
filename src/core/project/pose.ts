import { type DeepReadonly, finite, idSchema, labelSchema, textUpTo } from "@core/schema";
import * as z from "zod/mini";

/** Named targets (degrees, or spin) for some or all joints, by joint id. */
export const poseSchema = z.strictObject({
  id: idSchema,
  name: labelSchema,
  /** The heading it stands under in the list; empty for none. */
  group: textUpTo(80),
  targets: z.record(idSchema, finite),
});

export type Pose = DeepReadonly<z.infer<typeof poseSchema>>;
