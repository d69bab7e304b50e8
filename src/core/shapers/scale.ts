import { ok } from "@core/result";
import { finite } from "@core/schema";
import * as z from "zod/mini";
import { amount, amountIn } from "./flows";
import type { ShaperKind } from "./shaperKind";

/** Takes it so many times. */
const schema = z.strictObject({ kind: z.literal("scale"), by: finite });

export const scale: ShaperKind<typeof schema> = {
  schema,
  name: "Scale",
  begin: () => ({ kind: "scale", by: 1 }),
  flow: ({ by }, flow) => {
    const { low, high } = amountIn(flow);
    return ok(amount(low * by, high * by));
  },
  stage:
    ({ by }) =>
    (value) =>
      value * by,
};
