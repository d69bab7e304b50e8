import { idSchema } from "@core/schema";
import * as z from "zod/mini";
import { type ControlKind, common } from "./controlKind";

/** Holds a joint, and releases it. */
const schema = z.strictObject({ kind: z.literal("grip"), ...common, jointId: idSchema });

export const grip: ControlKind<typeof schema> = {
  schema,
  name: "Hold and release",
  span: { wide: 2, high: 1 },
  works: ({ jointId }) => ({ jointId }),
};
