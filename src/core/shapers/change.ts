import { ok } from "@core/result";
import { atLeastZero } from "@core/schema";
import * as z from "zod/mini";
import type { ShaperKind } from "./shaperKind";

/** Lets a new value through only when it differs by so much. */
const schema = z.strictObject({ kind: z.literal("change"), by: atLeastZero });

export const change: ShaperKind<typeof schema> = {
  schema,
  name: "Change threshold",
  begin: ({ low, high }) => ({ kind: "change", by: (high - low) * 0.01 }),
  flow: (_, flow) => ok(flow),
  stage: ({ by }) => {
    let passed = Number.NaN;
    return (value) => {
      if (!(Math.abs(value - passed) < by)) passed = value;
      return passed;
    };
  },
};
