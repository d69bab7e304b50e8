import { between } from "@core/schema";
import * as z from "zod/mini";
import { onlySwitch } from "./flows";
import type { ShaperKind } from "./shaperKind";
import { half } from "./values";

/** A short press (let go before `longMs`) or a long one (held until then), as a single moment. */
const schema = z.strictObject({
  kind: z.literal("press"),
  which: z.enum(["short", "long"]),
  longMs: between(50, 10_000),
});

export const press: ShaperKind<typeof schema> = {
  schema,
  name: "Press",
  begin: () => ({ kind: "press", which: "short", longMs: 600 }),
  flow: (_, flow) => onlySwitch("Press", flow),
  stage: ({ which, longMs }) => {
    let heldMs = Number.NaN;
    return (value, dtMs) => {
      const wasMs = heldMs;
      if (value >= half) {
        heldMs = Number.isNaN(wasMs) ? 0 : wasMs + dtMs;
        return which === "long" && heldMs >= longMs && wasMs < longMs ? 1 : 0;
      }
      heldMs = Number.NaN;
      return which === "short" && wasMs < longMs ? 1 : 0;
    };
  },
  isMomentary: true,
};
