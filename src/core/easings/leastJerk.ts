import * as z from "zod/mini";
import type { EasedCurve, EasingKind } from "./easingKind";

/** The minimum-jerk curve `10s³ − 15s⁴ + 6s⁵` (Flash and Hogan 1985): at rest at both ends, and fastest half-way, at 1.875 times its mean speed. */
const schema = z.strictObject({ kind: z.literal("leastJerk") });

export const leastJerkCurve: EasedCurve = (s) => s * s * s * (10 + s * (6 * s - 15));

export const leastJerk: EasingKind<typeof schema> = {
  schema,
  name: "least jerk",
  begin: () => ({ kind: "leastJerk" }),
  curve: () => leastJerkCurve,
  formula: () => [{ until: null, is: "s * s * s * (10 + s * (6 * s - 15))" }],
  demand: () => ({ peakRate: 1.875, peakAcceleration: 10 / Math.sqrt(3) }),
};
