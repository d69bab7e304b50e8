import { ok } from "@core/result";
import { wholeBetween } from "@core/schema";
import * as z from "zod/mini";
import { amount, amountIn } from "./flows";
import type { ShaperKind } from "./shaperKind";

/** Whole detents of an encoder that counts several steps for each. */
const schema = z.strictObject({ kind: z.literal("detents"), stepsPerDetent: wholeBetween(1, 64) });

export const detents: ShaperKind<typeof schema> = {
  schema,
  name: "Steps per detent",
  begin: () => ({ kind: "detents", stepsPerDetent: 4 }),
  flow: ({ stepsPerDetent }, flow) => {
    const { low, high } = amountIn(flow);
    return ok(amount(Math.floor(low / stepsPerDetent), Math.floor(high / stepsPerDetent)));
  },
  stage:
    ({ stepsPerDetent }) =>
    (value) =>
      Math.floor(value / stepsPerDetent),
};
