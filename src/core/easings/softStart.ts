import * as z from "zod/mini";
import type { EasingKind } from "./easingKind";

/** Sets off softly, and stops at once. */
const schema = z.strictObject({ kind: z.literal("in") });

export const softStart: EasingKind<typeof schema> = {
  schema,
  name: "soft start",
  begin: () => ({ kind: "in" }),
  curve: () => (s) => s * s,
  formula: () => [{ until: null, is: "s * s" }],
  demand: () => ({ peakRate: 2, peakAcceleration: Number.POSITIVE_INFINITY }),
};
