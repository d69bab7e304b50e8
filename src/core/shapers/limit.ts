import { ok } from "@core/result";
import { type Range, rangeSchema } from "@core/schema";
import * as z from "zod/mini";
import { amount } from "./flows";
import type { ShaperKind, Stage } from "./shaperKind";

/** Keeps to a range: by staying at its ends, or by coming in again at the other. */
const schema = z.strictObject({ kind: z.literal("limit"), how: z.enum(["clamp", "wrap"]), range: rangeSchema });

export const limit: ShaperKind<typeof schema> = {
  schema,
  name: "Clamp or wrap",
  begin: (range) => ({ kind: "limit", how: "clamp", range }),
  flow: ({ range }) => ok(amount(range.low, range.high)),
  stage: ({ how, range }) => (how === "clamp" ? clamp(range) : wrap(range)),
};

const clamp =
  ({ low, high }: Range): Stage =>
  (value) =>
    Math.min(Math.max(value, low), high);

function wrap({ low, high }: Range): Stage {
  const span = high - low;
  return (value) => low + ((((value - low) % span) + span) % span);
}
