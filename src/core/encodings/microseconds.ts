import { figure } from "@core/numbers";
import { finite } from "@core/schema";
import * as z from "zod/mini";
import type { EncodingKind } from "./encodingKind";
import { periodLine, periodUsOf } from "./frame";
import { linearMaker } from "./maker";

/** A library call that takes the pulse in µs, in whole ticks of the timer behind it. */
const schema = z.strictObject({
  kind: z.literal("microseconds"),
  tickUs: finite.check(z.gte(0.01), z.lte(100)),
});

export const microseconds: EncodingKind<typeof schema> = {
  schema,
  name: "Call in microseconds",
  begin: () => ({ kind: "microseconds", tickUs: 1 }),
  maker: ({ tickUs }, frameHz) => {
    const periodUs = periodUsOf(frameHz);
    return linearMaker({
      unit: "count",
      countName: "µs",
      perCount: tickUs,
      periodUs,
      gain: tickUs,
      offset: 0,
      lowestCount: 0,
      highestCount: Math.floor(periodUs / tickUs + 1e-9),
      rounding: "round",
    });
  },
  mostDigits: ({ tickUs }) => String(Math.ceil(1e6 / tickUs)).length,
  working: ({ tickUs }, { askedHz, periodUs, setPoint }) => [
    periodLine(askedHz, periodUs),
    `number = ${figure(setPoint)} µs, in whole ${figure(tickUs)} µs`,
  ],
};
