import { ok, problem } from "@core/result";
import { idSchema } from "@core/schema";
import * as z from "zod/mini";
import { amount, amountIn, isSwitchAmong } from "./flows";
import { endsSchema, type ShaperKind } from "./shaperKind";
import { half, shareOf, stretched } from "./values";

/** While a switch is on, another source takes this one's place, stretched onto `to`. */
const schema = z.strictObject({ kind: z.literal("select"), switchId: idSchema, sourceId: idSchema, to: endsSchema });

export const select: ShaperKind<typeof schema> = {
  schema,
  name: "Select",
  begin: (range, others) => {
    const aSwitch = others.find((other) => other.isSwitch);
    const [other] = others;
    return other && aSwitch ? { kind: "select", switchId: aSwitch.id, sourceId: other.id, to: range } : null;
  },
  others: ({ switchId, sourceId }) => [switchId, sourceId],
  flow: ({ switchId, to }, flow, others) => {
    if (!isSwitchAmong(others, switchId)) return problem("What selects must be a switch, a button or a key.");
    const { low, high } = amountIn(flow);
    return ok(amount(Math.min(low, to.low, to.high), Math.max(high, to.low, to.high)));
  },
  stage:
    ({ switchId, sourceId, to }, around) =>
    (value) =>
      shareOf(switchId, around) >= half ? stretched(shareOf(sourceId, around), to, value) : value,
};
