import { between } from "@core/schema";
import * as z from "zod/mini";
import type { EasingKind } from "./easingKind";

/** Goes past its end by this share of the way, and comes back. */
const schema = z.strictObject({ kind: z.literal("overshoot"), by: between(0.01, 0.5) });

export const overshoot: EasingKind<typeof schema> = {
  schema,
  name: "past it and back",
  begin: () => ({ kind: "overshoot", by: 0.1 }),
  curve: ({ by }) => {
    const c = overshootFactor(by);
    return (s) => 1 + (s - 1) * (s - 1) * ((c + 1) * (s - 1) + c);
  },
  formula: ({ by }) => {
    const c = overshootFactor(by);
    return [{ until: null, is: `1 + (s - 1) * (s - 1) * ((${c} + 1) * (s - 1) + ${c})` }];
  },
  demand: ({ by }) => ({ peakRate: overshootFactor(by) + 3, peakAcceleration: Number.POSITIVE_INFINITY }),
};

/**
 * Goes past the end by `by` and comes back: `1 + (c + 1)u³ + cu²` with `u = s − 1`, whose highest point lies `4c³ / 27(c + 1)²` above 1.
 * Gives c for that height, by halving the range it lies in.
 */
export function overshootFactor(by: number): number {
  let low = 0;
  let high = 20;
  for (let halvings = 0; halvings < 60; halvings += 1) {
    const c = (low + high) / 2;
    if ((4 * c ** 3) / (27 * (c + 1) ** 2) < by) low = c;
    else high = c;
  }
  return (low + high) / 2;
}
