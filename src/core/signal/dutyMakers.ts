import type { EncodingOf } from "@core/project";
import { periodUsOf } from "./frame";
import { linearMaker, type SignalMaker } from "./maker";

/** Full scale is `2^n` counts on some boards and `2^n − 1` on others; a factor of 1.00002 to 1.004 between them. */
export const fullScaleOf = (encoding: EncodingOf<"counts">): number =>
  encoding.fullScale === "2^n" ? 2 ** encoding.bits : 2 ** encoding.bits - 1;

/** `count = round(duty × fullScale)` */
export function countsMaker(encoding: EncodingOf<"counts">, frameHz: number): SignalMaker {
  const periodUs = periodUsOf(frameHz);
  return linearMaker({
    unit: "count",
    registerName: "count",
    periodUs,
    gain: periodUs / fullScaleOf(encoding),
    offset: 0,
    lowestRegister: 0,
    // The register has n bits, so 2^n itself can never be loaded.
    highestRegister: 2 ** encoding.bits - 1,
    rounding: encoding.rounding,
  });
}

/** `duty % = 100 × pulse / period`, in whole steps of the API. */
export function percentMaker(encoding: EncodingOf<"percent">, frameHz: number): SignalMaker {
  const periodUs = periodUsOf(frameHz);
  return linearMaker({
    unit: "count",
    registerName: "%",
    perRegister: encoding.stepPercent,
    periodUs,
    gain: (periodUs * encoding.stepPercent) / 100,
    offset: 0,
    lowestRegister: 0,
    highestRegister: Math.floor(100 / encoding.stepPercent + 1e-9),
    rounding: encoding.rounding,
  });
}

/** The prescaler of a pulse chip is a byte. */
const lowestPrescale = 0;
const highestPrescale = 255;

/** The whole prescale with which a pulse chip comes nearest to a frame rate: `round(osc / (2^n × f)) − 1`. */
export function pulseChipPrescale(encoding: EncodingOf<"pulseChip">, frameHz: number): number {
  const wished = Math.round(encoding.oscillatorHz / (2 ** encoding.bits * frameHz)) - 1;
  return Math.min(Math.max(wished, lowestPrescale), highestPrescale);
}

/** The frame rates, in Hz, that a pulse chip's prescaler can reach. */
export function pulseChipReachHz(encoding: EncodingOf<"pulseChip">): {
  readonly lowHz: number;
  readonly highHz: number;
} {
  const at = (prescale: number) => encoding.oscillatorHz / (2 ** encoding.bits * (prescale + 1));
  return { lowHz: at(highestPrescale), highHz: at(lowestPrescale) };
}

/**
 * `f = osc / (2^n × (prescale + 1))` with the oscillator as it really runs: the true frame differs from the asked one,
 * and a count is a share of the true frame.
 */
export function pulseChipMaker(encoding: EncodingOf<"pulseChip">, frameHz: number): SignalMaker {
  const prescale = pulseChipPrescale(encoding, frameHz);
  const trueHz = encoding.oscillatorHz * (1 + encoding.oscillatorErrorPercent / 100);
  const countUs = ((prescale + 1) * 1e6) / trueHz;
  const counts = 2 ** encoding.bits;
  return linearMaker({
    unit: "count",
    registerName: "count",
    periodUs: counts * countUs,
    gain: countUs,
    offset: 0,
    lowestRegister: 0,
    highestRegister: counts - 1,
    rounding: encoding.rounding,
  });
}
