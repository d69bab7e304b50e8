import { figure } from "@core/numbers";
import { atLeastZero, between, finite, positive, type ValueOf } from "@core/schema";
import * as z from "zod/mini";
import type { EncodingKind } from "./encodingKind";
import { periodUsOf } from "./frame";
import { linearMaker } from "./maker";

/** How late a program wakes that sleeps between two edges of a pulse. */
const latenessSchema = z.strictObject({
  /** It is always at least this late. */
  floorUs: atLeastZero,
  /** On top of it, an exponentially spread part of this mean. */
  meanUs: atLeastZero,
  /** How often something else has the processor: a share of all wake-ups. */
  spikeChance: between(0, 1),
  /** How long it then has it, on average; exponentially spread. */
  spikeMeanUs: atLeastZero,
});

/**
 * A program that sleeps while the pin is high and sleeps while it is low. With a fixed period it sleeps to the next deadline, so that what it does besides is within it; with a fixed gap that comes on top
 * (`period = pulse + gap`) the frame also changes with the pulse: 1500 µs and 20 ms of gap are 46.51 Hz.
 * Late wake-ups come on top and differ from frame to frame; see `core/wobble`.
 */
const schema = z.strictObject({
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
});

export type WakeLateness = ValueOf<typeof schema>["lateness"];

/** How late a sleeping program wakes, by what else its processor does. */
export const latenessPresets: Readonly<Record<"quiet" | "busy" | "pinned", WakeLateness>> = {
  quiet: { floorUs: 4, meanUs: 8, spikeChance: 0.001, spikeMeanUs: 80 },
  busy: { floorUs: 6, meanUs: 30, spikeChance: 0.02, spikeMeanUs: 900 },
  pinned: { floorUs: 1, meanUs: 2, spikeChance: 0.0001, spikeMeanUs: 30 },
};

/** No servo takes a longer pulse than this. */
const longestPulseUs = 20_000;

/** The pulse at which a frame that depends on its pulse is quoted. */
const quotedPulseUs = 1500;

export const software: EncodingKind<typeof schema> = {
  schema,
  name: "Timed by software",
  begin: () => ({
    kind: "software",
    framing: { kind: "fixedPeriod" },
    granularityUs: 1,
    largestDelayUs: 10_000,
    loopOverheadUs: 20,
    lateness: latenessPresets.quiet,
  }),
  maker: ({ framing, loopOverheadUs, granularityUs }, frameHz) => {
    const askedUs = periodUsOf(frameHz);
    const periodUsAt = (pulseUs: number) =>
      framing.kind === "fixedPeriod"
        ? Math.max(askedUs, pulseUs + loopOverheadUs)
        : pulseUs + framing.gapUs + loopOverheadUs;
    const periodUs = periodUsAt(quotedPulseUs);
    return linearMaker({
      unit: "count",
      countName: "µs",
      perCount: granularityUs,
      periodUs,
      gain: granularityUs,
      offset: 0,
      lowestCount: 0,
      // With a fixed gap a longer pulse makes a longer frame, and is never cut.
      highestCount: Math.floor((framing.kind === "fixedGap" ? longestPulseUs : periodUs) / granularityUs + 1e-9),
      rounding: "round",
      periodUsAt,
    });
  },
  mostDigits: ({ granularityUs }) => String(Math.ceil(1e6 / granularityUs)).length,
  working: ({ framing, granularityUs, largestDelayUs, loopOverheadUs }, { askedHz, setPoint }) => {
    const leftUs = framing.kind === "fixedGap" ? framing.gapUs : 1e6 / askedHz - setPoint - loopOverheadUs;
    // A pulse longer than its frame leaves nothing to sleep: the frame becomes longer.
    const gapUs = Math.max(0, leftUs);
    const sleeps = sleepsFor(gapUs, largestDelayUs);
    return [
      `sleep high = ${figure(setPoint)} µs, in whole ${figure(granularityUs)} µs`,
      `sleep low = ${figure(gapUs)} µs${sleeps > 1 ? `, in ${sleeps} sleeps, since one sleeps ${figure(largestDelayUs)} µs at most` : ""}`,
      `frame = high + low + ${figure(loopOverheadUs)} µs of loop = ${figure(setPoint + gapUs + loopOverheadUs)} µs`,
    ];
  },
};

/** How many sleeps it takes to wait this long when one sleep has a largest length. */
export const sleepsFor = (waitUs: number, largestDelayUs: number): number =>
  Math.max(1, Math.ceil(waitUs / largestDelayUs - 1e-9));
