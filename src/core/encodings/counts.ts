import { figure } from "@core/numbers";
import { type ValueOf, wholeBetween } from "@core/schema";
import * as z from "zod/mini";
import { type EncodingKind, roundingSchema } from "./encodingKind";
import { periodLine, periodUsOf } from "./frame";
import { linearMaker } from "./maker";

/** A duty in counts of n bits: `count = round(duty × fullScale)`. */
const schema = z.strictObject({
  kind: z.literal("counts"),
  bits: wholeBetween(4, 24),
  /** A duty of 1 is `2^n` counts on some boards and `2^n − 1` on others; a factor of 1.00002 to 1.004 between them. */
  fullScale: z.enum(["2^n", "2^n-1"]),
  rounding: roundingSchema,
});

const fullScaleOf = ({ bits, fullScale }: ValueOf<typeof schema>): number =>
  fullScale === "2^n" ? 2 ** bits : 2 ** bits - 1;

export const counts: EncodingKind<typeof schema> = {
  schema,
  name: "Duty in counts",
  begin: () => ({ kind: "counts", bits: 12, fullScale: "2^n", rounding: "round" }),
  maker: (encoding, frameHz) => {
    const periodUs = periodUsOf(frameHz);
    return linearMaker({
      unit: "count",
      countName: "count",
      periodUs,
      gain: periodUs / fullScaleOf(encoding),
      offset: 0,
      lowestCount: 0,
      // There are n bits for it, so 2^n itself can never be loaded.
      highestCount: 2 ** encoding.bits - 1,
      rounding: encoding.rounding,
    });
  },
  mostDigits: ({ bits }) => String(2 ** bits - 1).length,
  working: (encoding, { askedHz, periodUs, setPoint }) => {
    const fullScale = fullScaleOf(encoding);
    const duty = setPoint / periodUs;
    return [
      periodLine(askedHz, periodUs),
      `duty = ${figure(setPoint)} / ${figure(periodUs)} = ${figure(duty, 7)}`,
      `count = ${figure(duty, 7)} × ${fullScale} = ${figure(duty * fullScale)}, ${encoding.rounding === "round" ? "rounded" : "truncated"}`,
    ];
  },
};
