import { ok } from "@core/result";
import { positive } from "@core/schema";
import * as z from "zod/mini";
import type { ShaperKind } from "./shaperKind";

/** Goes no faster than so much in a second. */
const schema = z.strictObject({ kind: z.literal("rate"), perS: positive });

export const rate: ShaperKind<typeof schema> = {
  schema,
  name: "Rate limit",
  begin: ({ low, high }) => ({ kind: "rate", perS: high - low }),
  flow: (_, flow) => ok(flow),
  stage: ({ perS }) => {
    let at = Number.NaN;
    return (value, dtMs) => {
      const most = (perS * dtMs) / 1000;
      at = Number.isNaN(at) || Math.abs(value - at) <= most ? value : at + Math.sign(value - at) * most;
      return at;
    };
  },
};
