import { durationMs, idSchema } from "@core/schema";
import * as z from "zod/mini";
import { type ControlKind, common } from "./controlKind";

/** Goes to a pose. */
const schema = z.strictObject({ kind: z.literal("pose"), ...common, poseId: idSchema, moveMs: durationMs });

export const pose: ControlKind<typeof schema> = {
  schema,
  name: "Pose",
  span: { wide: 2, high: 1 },
  works: ({ poseId }) => ({ poseId }),
};
