import { figure } from "@core/numbers";
import { finite } from "@core/schema";
import * as z from "zod/mini";
import { type EncodingKind, roundingSchema } from "./encodingKind";
import { periodLine, periodUsOf } from "./frame";
import { linearMaker } from "./maker";

/** An API that takes the duty in per cent, in steps: `duty % = 100 × pulse / period`. */
const schema = z.strictObject({
  kind: z.literal("percent"),
  stepPercent: finite.check(z.gte(0.0001), z.lte(10)),
  rounding: roundingSchema,
});

export const percent: EncodingKind<typeof schema> = {
  schema,
  name: "Duty in per cent",
  begin: () => ({ kind: "percent", stepPercent: 0.1, rounding: "round" }),
  maker: ({ stepPercent, rounding }, frameHz) => {
    const periodUs = periodUsOf(frameHz);
    return linearMaker({
      unit: "count",
      countName: "%",
      perCount: stepPercent,
      periodUs,
      gain: (periodUs * stepPercent) / 100,
      offset: 0,
      lowestCount: 0,
      highestCount: Math.floor(100 / stepPercent + 1e-9),
      rounding,
    });
  },
  mostDigits: ({ stepPercent }) => String(Math.ceil(100 / stepPercent)).length,
  working: ({ stepPercent }, { askedHz, periodUs, setPoint }) => [
    periodLine(askedHz, periodUs),
    `duty = 100 × ${figure(setPoint)} / ${figure(periodUs)} = ${figure((100 * setPoint) / periodUs)} %, in steps of ${figure(stepPercent)} %`,
  ],
};
