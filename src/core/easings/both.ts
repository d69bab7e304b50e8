import * as z from "zod/mini";
import type { EasingKind } from "./easingKind";

/** Soft at both ends: `3s² − 2s³`. */
const schema = z.strictObject({ kind: z.literal("both") });

export const both: EasingKind<typeof schema> = {
  schema,
  name: "soft at both ends",
  begin: () => ({ kind: "both" }),
  curve: () => (s) => s * s * (3 - 2 * s),
  formula: () => [{ until: null, is: "s * s * (3 - 2 * s)" }],
  demand: () => ({ peakRate: 1.5, peakAcceleration: 6 }),
};
