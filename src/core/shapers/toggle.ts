import * as z from "zod/mini";
import { onlySwitch } from "./flows";
import type { ShaperKind } from "./shaperKind";
import { half } from "./values";

/** Each switching on turns it over. */
const schema = z.strictObject({ kind: z.literal("toggle") });

export const toggle: ShaperKind<typeof schema> = {
  schema,
  name: "Toggle",
  begin: () => ({ kind: "toggle" }),
  flow: (_, flow) => onlySwitch("Toggle", flow),
  stage: () => {
    let isOn = false;
    let was = true;
    return (value) => {
      const is = value >= half;
      if (is && !was) isOn = !isOn;
      was = is;
      return isOn ? 1 : 0;
    };
  },
  isMomentary: true,
};
