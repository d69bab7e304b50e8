import * as z from "zod/mini";
import { between, type DeepReadonly, finite, idSchema, labelSchema, listUpTo } from "./parts";

/** Named targets (degrees, or spin) for some or all joints, by joint id. */
export const poseSchema = z.strictObject({
  id: idSchema,
  name: labelSchema,
  targets: z.record(idSchema, finite),
});

export const easingSchema = z.enum(["even", "soft"]);

export const stepSchema = z.discriminatedUnion("kind", [
  z.strictObject({
    kind: z.literal("move"),
    id: idSchema,
    poseId: idSchema,
    moveMs: between(0, 3_600_000),
    holdMs: between(0, 3_600_000),
    easing: easingSchema,
  }),
]);

export const routineSchema = z.strictObject({
  id: idSchema,
  name: labelSchema,
  loop: z.boolean(),
  steps: listUpTo(stepSchema, 5000),
});

export type Pose = DeepReadonly<z.infer<typeof poseSchema>>;
export type Easing = z.infer<typeof easingSchema>;
export type Step = DeepReadonly<z.infer<typeof stepSchema>>;
export type Routine = DeepReadonly<z.infer<typeof routineSchema>>;
