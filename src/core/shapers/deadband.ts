import { ok } from "@core/result";
import { atLeastZero, finite, positive } from "@core/schema";
import * as z from "zod/mini";
import type { ShaperKind } from "./shaperKind";

/** Nothing happens within `halfWidth` of the centre; beyond it the rest of `reach` is stretched, so that the ends stay. */
const schema = z
  .strictObject({ kind: z.literal("deadband"), centre: finite, halfWidth: atLeastZero, reach: positive })
  .check(z.refine((one) => one.halfWidth < one.reach, { error: "the deadband must be narrower than the reach" }));

export const deadband: ShaperKind<typeof schema> = {
  schema,
  name: "Centre deadband",
  begin: ({ low, high }) => {
    const reach = (high - low) / 2;
    return { kind: "deadband", centre: low + reach, halfWidth: reach * 0.1, reach };
  },
  flow: (_, flow) => ok(flow),
  stage:
    ({ centre, halfWidth, reach }) =>
    (value) => {
      const off = value - centre;
      const beyond = Math.abs(off) - halfWidth;
      return beyond <= 0 ? centre : centre + Math.sign(off) * ((beyond * reach) / (reach - halfWidth));
    },
};
