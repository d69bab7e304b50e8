import { ok } from "@core/result";
import { finite } from "@core/schema";
import * as z from "zod/mini";
import { amount, amountIn } from "./flows";
import type { ShaperKind } from "./shaperKind";

/** Adds a fixed number. */
const schema = z.strictObject({ kind: z.literal("add"), by: finite });

export const add: ShaperKind<typeof schema> = {
  schema,
  name: "Add",
  begin: () => ({ kind: "add", by: 0 }),
  flow: ({ by }, flow) => {
    const { low, high } = amountIn(flow);
    return ok(amount(low + by, high + by));
  },
  stage:
    ({ by }) =>
    (value) =>
      value + by,
};
