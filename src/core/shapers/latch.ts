import { durationMs } from "@core/schema";
import * as z from "zod/mini";
import { onlySwitch } from "./flows";
import type { ShaperKind } from "./shaperKind";
import { half } from "./values";

/** Switched on, it stays on for at least so long. */
const schema = z.strictObject({ kind: z.literal("latch"), holdMs: durationMs });

export const latch: ShaperKind<typeof schema> = {
  schema,
  name: "Latch",
  begin: () => ({ kind: "latch", holdMs: 2000 }),
  flow: (_, flow) => onlySwitch("Latch", flow),
  stage: ({ holdMs }) => {
    let leftMs = 0;
    return (value, dtMs) => {
      leftMs = value >= half ? holdMs : Math.max(0, leftMs - dtMs);
      return value >= half || leftMs > 0 ? 1 : 0;
    };
  },
};
