import { ok } from "@core/result";
import { between, idSchema } from "@core/schema";
import * as z from "zod/mini";
import { amount, amountIn } from "./flows";
import { endsSchema, type ShaperKind } from "./shaperKind";
import { shareOf, stretched } from "./values";

/** Joins another source, stretched from its own range onto `to`. `share` is the other's part of a mix. */
const schema = z.strictObject({
  kind: z.literal("combine"),
  sourceId: idSchema,
  to: endsSchema,
  how: z.enum(["sum", "product", "larger", "mix"]),
  share: between(0, 1),
});

export const combine: ShaperKind<typeof schema> = {
  schema,
  name: "Combine",
  begin: (_, [other]) =>
    other ? { kind: "combine", sourceId: other.id, to: { low: 0, high: 1 }, how: "product", share: 0.5 } : null,
  others: ({ sourceId }) => [sourceId],
  flow: ({ how, to, share }, flow) => {
    const { low, high } = amountIn(flow);
    const [a, b] = [Math.min(to.low, to.high), Math.max(to.low, to.high)];
    if (how === "sum") return ok(amount(low + a, high + b));
    if (how === "larger") return ok(amount(Math.max(low, a), Math.max(high, b)));
    if (how === "mix") return ok(amount((1 - share) * low + share * a, (1 - share) * high + share * b));
    const products = [low * a, low * b, high * a, high * b];
    return ok(amount(Math.min(...products), Math.max(...products)));
  },
  stage:
    ({ sourceId, to, how, share }, around) =>
    (value) => {
      const other = stretched(shareOf(sourceId, around), to, Number.NaN);
      if (Number.isNaN(other)) return how === "product" ? 0 : value;
      if (how === "sum") return value + other;
      if (how === "product") return value * other;
      return how === "larger" ? Math.max(value, other) : (1 - share) * value + share * other;
    },
};
