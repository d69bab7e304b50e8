import { ok } from "@core/result";
import { durationMs, finite } from "@core/schema";
import * as z from "zod/mini";
import { aSwitch } from "./flows";
import type { ShaperKind } from "./shaperKind";

/** 1 from `on`, 0 from `off`, each after it has lasted `dwellMs`; between the two it stays. `on` below `off` switches on when it falls. */
const schema = z
  .strictObject({ kind: z.literal("threshold"), on: finite, off: finite, dwellMs: durationMs })
  .check(z.refine((one) => one.on !== one.off, { error: "on and off must lie apart, or it chatters" }));

export const threshold: ShaperKind<typeof schema> = {
  schema,
  name: "Threshold",
  begin: ({ low, high }) => ({
    kind: "threshold",
    on: low + 0.6 * (high - low),
    off: low + 0.4 * (high - low),
    dwellMs: 0,
  }),
  flow: () => ok(aSwitch),
  stage: ({ on, off, dwellMs }) => {
    const isOnAt = (value: number) => (on > off ? value >= on : value <= on);
    const isOffAt = (value: number) => (on > off ? value <= off : value >= off);
    let isOn = false;
    let lastedMs = 0;
    return (value, dtMs) => {
      const wantsChange = isOn ? isOffAt(value) : isOnAt(value);
      lastedMs = wantsChange ? lastedMs + dtMs : 0;
      if (wantsChange && lastedMs >= dwellMs) {
        isOn = !isOn;
        lastedMs = 0;
      }
      return isOn ? 1 : 0;
    };
  },
};
