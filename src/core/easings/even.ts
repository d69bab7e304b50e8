import * as z from "zod/mini";
import type { EasingKind } from "./easingKind";

/** At one speed all the way. */
const schema = z.strictObject({ kind: z.literal("even") });

export const even: EasingKind<typeof schema> = {
  schema,
  name: "even",
  begin: () => ({ kind: "even" }),
  curve: () => (s) => s,
  formula: () => [{ until: null, is: "s" }],
  demand: () => ({ peakRate: 1, peakAcceleration: Number.POSITIVE_INFINITY }),
};
