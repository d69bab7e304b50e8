import type { EncodingKind, EncodingOf, Lateness } from "@core/project";

/** How late a sleeping program wakes, by what else its processor does. */
export const latenessPresets: Readonly<Record<"quiet" | "busy" | "pinned", Lateness>> = {
  quiet: { floorUs: 4, meanUs: 8, spikeChance: 0.001, spikeMeanUs: 80 },
  busy: { floorUs: 6, meanUs: 30, spikeChance: 0.02, spikeMeanUs: 900 },
  pinned: { floorUs: 1, meanUs: 2, spikeChance: 0.0001, spikeMeanUs: 30 },
};

/** What each way of making signals is called, and the settings it starts with. */
export const encodingNames: Readonly<Record<EncodingKind, string>> = {
  percent: "Duty in per cent",
  counts: "Duty in counts",
  pulseChip: "Pulse chip with an oscillator",
  timer: "Timer with a compare value",
  microseconds: "Call in microseconds",
  software: "Timed by software",
  bus: "Bus adapter for smart servos",
};

const defaults: { readonly [Kind in EncodingKind]: EncodingOf<Kind> } = {
  percent: { kind: "percent", stepPercent: 0.1, rounding: "round" },
  counts: { kind: "counts", bits: 12, fullScale: "2^n", rounding: "round" },
  pulseChip: { kind: "pulseChip", oscillatorHz: 20_000_000, oscillatorErrorPercent: 0, bits: 13, rounding: "round" },
  timer: { kind: "timer", clockHz: 20_000_000, prescale: 8, counterBits: 16, alignment: "edge", output: "normal" },
  microseconds: { kind: "microseconds", tickUs: 1 },
  software: {
    kind: "software",
    framing: { kind: "fixedPeriod" },
    granularityUs: 1,
    largestDelayUs: 10_000,
    loopOverheadUs: 20,
    lateness: latenessPresets.quiet,
  },
  bus: { kind: "bus", bitsPerS: 230_400 },
};

export const defaultEncoding = <Kind extends EncodingKind>(kind: Kind): EncodingOf<Kind> => defaults[kind];
