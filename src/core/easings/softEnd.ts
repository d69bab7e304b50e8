import * as z from "zod/mini";
import type { EasingKind } from "./easingKind";

/** Sets off at once, and comes in softly. */
const schema = z.strictObject({ kind: z.literal("out") });

export const softEnd: EasingKind<typeof schema> = {
  schema,
  name: "soft end",
  begin: () => ({ kind: "out" }),
  curve: () => (s) => s * (2 - s),
  formula: () => [{ until: null, is: "s * (2 - s)" }],
  demand: () => ({ peakRate: 2, peakAcceleration: Number.POSITIVE_INFINITY }),
};
