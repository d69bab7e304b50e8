import { ok } from "@core/result";
import { between, type DeepReadonly, rangeSchema } from "@core/schema";
import * as z from "zod/mini";
import { amount } from "./flows";
import type { ShaperKind } from "./shaperKind";
import { shareIn } from "./values";

const shapeSchema = z.discriminatedUnion("kind", [
  /** About the middle: gentle there and steep at the ends for positive amounts, the other way for negative. */
  z.strictObject({ kind: z.literal("expo"), amount: between(-1, 1) }),
  /** Gentle at both ends. */
  z.strictObject({ kind: z.literal("s"), amount: between(0, 1) }),
  /** Drawn: shares of the range, from left to right. */
  z.strictObject({
    kind: z.literal("points"),
    points: z.array(z.strictObject({ x: between(0, 1), y: between(0, 1) })).check(
      z.minLength(2),
      z.maxLength(20),
      z.refine((points) => points.every((point, at) => at === 0 || point.x > (points[at - 1]?.x ?? 0)), {
        error: "drawn points must run from left to right",
      }),
    ),
  }),
]);

/** Bends what runs through it, within its range. */
const schema = z.strictObject({ kind: z.literal("curve"), range: rangeSchema, shape: shapeSchema });

export const curve: ShaperKind<typeof schema> = {
  schema,
  name: "Curve",
  begin: (range) => ({ kind: "curve", range, shape: { kind: "expo", amount: 0.4 } }),
  flow: ({ range }) => ok(amount(range.low, range.high)),
  stage: ({ range, shape }) => {
    const bent = bendOf(shape);
    return (value) => range.low + bent(shareIn(range, value)) * (range.high - range.low);
  },
};

/** A curve on 0…1. Every one of them rises where its points do, and never leaves 0…1. */
function bendOf(shape: DeepReadonly<z.infer<typeof shapeSchema>>): (share: number) => number {
  switch (shape.kind) {
    case "expo":
      return (share) => {
        const u = 2 * share - 1;
        // Negative amounts turn the cube round: steep in the middle, gentle at the ends.
        const bent = shape.amount >= 0 ? u ** 3 : Math.cbrt(u);
        const weight = Math.abs(shape.amount);
        return ((1 - weight) * u + weight * bent + 1) / 2;
      };
    case "s":
      return (share) => (1 - shape.amount) * share + shape.amount * share * share * (3 - 2 * share);
    case "points":
      return (share) => {
        const { points } = shape;
        let at = 1;
        while (at < points.length - 1 && (points[at]?.x ?? 1) < share) at += 1;
        const a = points[at - 1] as { x: number; y: number };
        const b = points[at] as { x: number; y: number };
        return a.y + shareIn({ low: a.x, high: b.x }, share) * (b.y - a.y);
      };
  }
}
