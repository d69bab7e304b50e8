import { figure } from "@core/numbers";
import { between, type ValueOf, wholeBetween } from "@core/schema";
import * as z from "zod/mini";
import { clockHzSchema } from "./clock";
import { type EncodingKind, roundingSchema } from "./encodingKind";
import { loadable } from "./frame";
import { linearMaker } from "./maker";

/**
 * A pulse chip: oscillator and whole prescaler make the frame, n bits divide it. `f = osc / (2^n × (prescale + 1))` with the oscillator as it
 * really runs: the true frame differs from the asked one, and a count is a share of the true frame.
 */
const schema = z.strictObject({
  kind: z.literal("pulseChip"),
  oscillatorHz: clockHzSchema,
  /** How far the oscillator really is from what is printed on it; positive runs fast. */
  oscillatorErrorPercent: between(-20, 20),
  bits: wholeBetween(8, 16),
  rounding: roundingSchema,
  /** Each channel begins so many counts after the one before, so that not all servos draw their current at once; missing: all begin together. */
  stagger: z.optional(wholeBetween(0, 65_535)),
});

type PulseChip = ValueOf<typeof schema>;

/** The prescaler of a pulse chip is a byte. */
const lowestPrescale = 0;
const highestPrescale = 255;

/** The whole prescale with which a pulse chip comes nearest to a frame rate: `round(osc / (2^n × f)) − 1`. */
export function pulseChipPrescale({ oscillatorHz, bits }: PulseChip, frameHz: number): number {
  return Math.min(Math.max(wishedPrescale({ oscillatorHz, bits }, frameHz), lowestPrescale), highestPrescale);
}

const wishedPrescale = ({ oscillatorHz, bits }: Pick<PulseChip, "oscillatorHz" | "bits">, frameHz: number): number =>
  Math.round(oscillatorHz / (2 ** bits * frameHz)) - 1;

const trueHzOf = ({ oscillatorHz, oscillatorErrorPercent }: PulseChip) =>
  oscillatorHz * (1 + oscillatorErrorPercent / 100);

export const pulseChip: EncodingKind<typeof schema> = {
  schema,
  name: "Pulse chip with an oscillator",
  begin: () => ({
    kind: "pulseChip",
    oscillatorHz: 20_000_000,
    oscillatorErrorPercent: 0,
    bits: 13,
    rounding: "round",
  }),
  maker: (encoding, frameHz) => {
    const countUs = ((pulseChipPrescale(encoding, frameHz) + 1) * 1e6) / trueHzOf(encoding);
    const counts = 2 ** encoding.bits;
    return linearMaker({
      unit: "count",
      countName: "count",
      periodUs: counts * countUs,
      gain: countUs,
      offset: 0,
      lowestCount: 0,
      highestCount: counts - 1,
      rounding: encoding.rounding,
      riseUsAt: (_, channel) => (((encoding.stagger ?? 0) * channel) % counts) * countUs,
    });
  },
  mostDigits: ({ bits }) => String(2 ** bits - 1).length,
  working: (encoding, { askedHz, periodUs, setPoint }) => {
    const counts = 2 ** encoding.bits;
    const prescale = pulseChipPrescale(encoding, askedHz);
    return [
      `prescale = round(${figure(encoding.oscillatorHz)} / (${counts} × ${figure(askedHz)})) − 1 = ${loadable(wishedPrescale(encoding, askedHz), prescale)}`,
      `frame = ${figure(trueHzOf(encoding))} / (${counts} × ${prescale + 1}) = ${figure(1e6 / periodUs)} Hz, so period = ${figure(periodUs)} µs`,
      `count = ${counts} × ${figure(setPoint)} / ${figure(periodUs)} = ${figure((counts * setPoint) / periodUs)}, ${encoding.rounding === "round" ? "rounded" : "truncated"}`,
    ];
  },
  problems: ({ oscillatorHz, bits }, askedHz) => {
    const at = (prescale: number) => oscillatorHz / (2 ** bits * (prescale + 1));
    const [lowHz, highHz] = [at(highestPrescale), at(lowestPrescale)];
    return askedHz < lowHz || askedHz > highHz
      ? [`This chip reaches ${figure(lowHz, 2)} to ${figure(highHz, 2)} Hz; ${figure(askedHz, 2)} Hz is beyond it.`]
      : [];
  },
};
