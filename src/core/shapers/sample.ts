import { ok, problem } from "@core/result";
import { idSchema } from "@core/schema";
import * as z from "zod/mini";
import { isSwitchAmong } from "./flows";
import type { ShaperKind } from "./shaperKind";
import { half, shareOf } from "./values";

/** Takes the value when another source switches on, and keeps it until the next time. */
const schema = z.strictObject({ kind: z.literal("sample"), whenSourceId: idSchema });

export const sample: ShaperKind<typeof schema> = {
  schema,
  name: "Sample and hold",
  begin: (_, others) => {
    const aSwitch = others.find((other) => other.isSwitch);
    return aSwitch ? { kind: "sample", whenSourceId: aSwitch.id } : null;
  },
  others: ({ whenSourceId }) => [whenSourceId],
  flow: ({ whenSourceId }, flow, others) =>
    isSwitchAmong(others, whenSourceId)
      ? ok(flow)
      : problem("What says when to take the value must be a switch, a button or a key."),
  stage: ({ whenSourceId }, around) => {
    let kept = Number.NaN;
    let was = false;
    return (value) => {
      const is = shareOf(whenSourceId, around) >= half;
      if ((is && !was) || Number.isNaN(kept)) kept = value;
      was = is;
      return kept;
    };
  },
};
