import { ok } from "@core/result";
import { rangeSchema } from "@core/schema";
import * as z from "zod/mini";
import { amount } from "./flows";
import { endsSchema, type ShaperKind } from "./shaperKind";
import { shareIn } from "./values";

/** Stretches one range onto another; what lies outside stays at the nearer end. */
const schema = z.strictObject({ kind: z.literal("rangeMap"), from: rangeSchema, to: endsSchema });

export const rangeMap: ShaperKind<typeof schema> = {
  schema,
  name: "Range map",
  begin: (range) => ({ kind: "rangeMap", from: range, to: range }),
  flow: ({ to }) => ok(amount(to.low, to.high)),
  stage:
    ({ from, to }) =>
    (value) =>
      to.low + shareIn(from, value) * (to.high - to.low),
};
