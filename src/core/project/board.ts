import {
  atLeastZero,
  between,
  type DeepReadonly,
  finite,
  idSchema,
  labelSchema,
  positive,
  wholeBetween,
} from "@core/schema";
import * as z from "zod/mini";

const roundingSchema = z.enum(["round", "truncate"]);
const hertzSchema = finite.check(z.gte(1), z.lte(1000));
const clockHzSchema = finite.check(z.gte(1000), z.lte(1e9));

/** How late a program wakes that sleeps between two edges of a pulse. */
export const latenessSchema = z.strictObject({
  /** It is always at least this late. */
  floorUs: atLeastZero,
  /** On top of it, an exponentially spread part of this mean. */
  meanUs: atLeastZero,
  /** How often something else has the processor: a share of all wake-ups. */
  spikeChance: between(0, 1),
  /** How long it then has it, on average; exponentially spread. */
  spikeMeanUs: atLeastZero,
});

/** How a board turns a set point into the whole number it can really make. */
export const encodingSchema = z.discriminatedUnion("kind", [
  /** An API that takes the duty in per cent, in steps. */
  z.strictObject({
    kind: z.literal("percent"),
    stepPercent: finite.check(z.gte(0.0001), z.lte(10)),
    rounding: roundingSchema,
  }),
  z.strictObject({
    kind: z.literal("counts"),
    bits: wholeBetween(4, 24),
    /** A duty of 1 is `2^n` counts on some boards and `2^n − 1` on others. */
    fullScale: z.enum(["2^n", "2^n-1"]),
    rounding: roundingSchema,
  }),
  /** A pulse chip: oscillator and whole prescaler make the frame, n bits divide it. */
  z.strictObject({
    kind: z.literal("pulseChip"),
    oscillatorHz: clockHzSchema,
    /** How far the oscillator really is from what is printed on it; positive runs fast. */
    oscillatorErrorPercent: between(-20, 20),
    bits: wholeBetween(8, 16),
    rounding: roundingSchema,
  }),
  z.strictObject({
    kind: z.literal("timer"),
    clockHz: clockHzSchema,
    prescale: wholeBetween(1, 65_536),
    counterBits: wholeBetween(8, 32),
    alignment: z.enum(["edge", "centre"]),
    output: z.enum(["normal", "inverted"]),
  }),
  /** A library call that takes the pulse in µs, or in whole ticks of some µs. */
  z.strictObject({ kind: z.literal("microseconds"), tickUs: finite.check(z.gte(0.01), z.lte(100)) }),
  /** A program that sleeps while the pin is high and sleeps while it is low. */
  z.strictObject({
    kind: z.literal("software"),
    framing: z.discriminatedUnion("kind", [
      z.strictObject({ kind: z.literal("fixedPeriod") }),
      z.strictObject({ kind: z.literal("fixedGap"), gapUs: positive }),
    ]),
    /** A sleep is a whole number of these. */
    granularityUs: finite.check(z.gte(0.01), z.lte(10_000)),
    /** The largest sleep that one call can make; longer ones are split. */
    largestDelayUs: finite.check(z.gte(100), z.lte(1e9)),
    /** What the program itself takes in every frame. */
    loopOverheadUs: atLeastZero,
    lateness: latenessSchema,
  }),
  /** A bus adapter hands whole tick positions to smart servos; it makes no pulses. Its channels are the devices' ids. */
  z.strictObject({
    kind: z.literal("bus"),
    /** How fast the wire runs; all devices on it are set to the same. */
    bitsPerS: wholeBetween(1200, 20_000_000),
  }),
]);

export const boardSchema = z.strictObject({
  id: idSchema,
  label: labelSchema,
  /** Channels of a pulse board; ids of a bus. Counted from 0. */
  channels: wholeBetween(1, 254),
  /**
   * The frame rate that is asked for, one entry per group of channels: a board with one entry has one rate for all.
   * What is really made can differ (see `SignalMaker.periodUs`).
   */
  frameHz: z.array(hertzSchema).check(z.minLength(1), z.maxLength(64)),
  encoding: encodingSchema,
  /** What the board does by itself when the link has been silent for so long. */
  silence: z.strictObject({ afterMs: wholeBetween(100, 60_000), action: z.enum(["release", "hold"]) }),
  link: z.strictObject({ kind: z.literal("simulated") }),
});

export type Board = DeepReadonly<z.infer<typeof boardSchema>>;
export type Encoding = Board["encoding"];
export type EncodingKind = Encoding["kind"];
export type EncodingOf<Kind extends EncodingKind> = Extract<Encoding, { kind: Kind }>;
export type Lateness = EncodingOf<"software">["lateness"];

/** The most digits that a number for this board has. */
function mostDigits(encoding: Encoding): number {
  switch (encoding.kind) {
    case "counts":
    case "pulseChip":
      return String(2 ** encoding.bits - 1).length;
    case "timer":
      return String(2 ** encoding.counterBits - 1).length;
    case "percent":
      return String(Math.ceil(100 / encoding.stepPercent)).length;
    case "microseconds":
      return String(Math.ceil(1e6 / encoding.tickUs)).length;
    case "software":
      return String(Math.ceil(1e6 / encoding.granularityUs)).length;
    case "bus":
      return 0;
  }
}

/** The bytes of the longest line of the link that names all of these channels: `S 65535`, ` ch:number` each, check value and end. A bus has no such lines. */
export function longestFrameLine(board: Board, channels: readonly number[]): number {
  if (board.encoding.kind === "bus") return 0;
  const digits = mostDigits(board.encoding);
  return channels.reduce((sum, channel) => sum + 2 + String(channel).length + digits, "S 65535".length + 6);
}

/** How many neighbouring channels share one frame rate. */
export const groupSizeOf = (board: Board): number => Math.ceil(board.channels / board.frameHz.length);

/** Which group a channel belongs to, counted from 0. */
export const groupOf = (board: Board, channel: number): number =>
  Math.min(Math.floor(channel / groupSizeOf(board)), board.frameHz.length - 1);

/** The frame rate asked for on a channel. */
export const frameHzOf = (board: Board, channel: number): number => board.frameHz[groupOf(board, channel)] as number;
