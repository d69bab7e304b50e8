import { type EncodingOf, sleepsFor } from "@core/encodings";
import { PulseSpread } from "./pulseSpread";

/** What is to be simulated: a program that sleeps between the edges of a pulse, for so many frames. */
export interface WobbleAsk {
  readonly encoding: EncodingOf<"software">;
  /** The asked frame rate where the framing is a fixed period. */
  readonly frameHz: number;
  readonly pulseUs: number;
  readonly frames: number;
  readonly seed: number;
}

/** How pulses came out over many frames. */
export interface WobbleRun {
  readonly frames: number;
  /** Periods that passed without a pulse: from one rising edge to the next, each full period past one and a half. */
  readonly lostFrames: number;
  /** The mean frame, in µs. */
  readonly meanPeriodUs: number;
  /** The longest time from one rising edge to the next, in µs. */
  readonly longestPeriodUs: number;
  readonly pulses: PulseSpread;
}

/** Frames between two looks at whether to stop, and two reports of progress. */
const chunk = 20_000;

/**
 * Simulates the frames of a software-timed signal. A sleep is rounded up to the granularity and ends late by the
 * board's model of lateness: `floor + exponential(mean)`, and with some chance a spike instead. The pulse is as long as its
 * sleep and the lateness of the wake-up that ends it. With a fixed period the program sleeps until a deadline, so that lateness
 * does not add up; where a deadline is already past by half a period, the next is taken up instead.
 *
 * Runs in pieces: each `next()` does some frames and gives how many are done.
 */
export function* simulateWobble(ask: WobbleAsk): Generator<number, WobbleRun> {
  const loop = new SleepingLoop(ask);
  for (let done = 0; done < ask.frames; ) {
    const count = Math.min(chunk, ask.frames - done);
    loop.run(count);
    done += count;
    yield done;
  }
  const { lostFrames, longestPeriodUs, pulses } = loop;
  return { frames: ask.frames, lostFrames, meanPeriodUs: loop.riseUs / ask.frames, longestPeriodUs, pulses };
}

/** The program itself, between two pieces. `run` keeps its numbers in locals: it is the hot loop of the wobble tool. */
class SleepingLoop {
  lostFrames = 0;
  longestPeriodUs = 0;
  riseUs = 0;
  readonly pulses: PulseSpread;
  readonly #ask: WobbleAsk;
  #deadlineUs = 0;
  #state: number;

  constructor(ask: WobbleAsk) {
    this.#ask = ask;
    this.#state = ask.seed | 0;
    this.pulses = new PulseSpread(ask.pulseUs);
  }

  run(count: number): void {
    const { encoding, pulseUs, frameHz } = this.#ask;
    const { framing, granularityUs, largestDelayUs, loopOverheadUs, lateness } = encoding;
    const { floorUs, meanUs, spikeChance, spikeMeanUs } = lateness;
    const { pulses } = this;
    const askedUs = 1e6 / frameHz;
    const isDeadline = framing.kind === "fixedPeriod";
    const gapUs = isDeadline ? Math.max(askedUs - pulseUs, 0) : framing.gapUs;
    const usualUs = isDeadline ? Math.max(askedUs, pulseUs + loopOverheadUs) : pulseUs + gapUs + loopOverheadUs;
    const sleptHighUs = Math.ceil(pulseUs / granularityUs - 1e-9) * granularityUs;
    const sleptGapUs = Math.ceil(gapUs / granularityUs - 1e-9) * granularityUs;
    const highSleeps = sleepsFor(sleptHighUs, largestDelayUs);
    const wakes = highSleeps + sleepsFor(gapUs, largestDelayUs);
    const perSpike = spikeChance > 0 ? 1 / spikeChance : 0;
    const perQuiet = 1 / (1 - spikeChance);
    let state = this.#state;
    let riseUs = this.riseUs;
    let deadlineUs = this.#deadlineUs;
    let longestPeriodUs = this.longestPeriodUs;

    for (let frame = 0; frame < count; frame += 1) {
      let highLateUs = 0;
      let gapLateUs = 0;
      for (let wake = 0; wake < wakes; wake += 1) {
        state = (state + 0x6d2b79f5) | 0;
        let mixed = Math.imul(state ^ (state >>> 15), state | 1);
        mixed ^= mixed + Math.imul(mixed ^ (mixed >>> 7), mixed | 61);
        const even = ((mixed ^ (mixed >>> 14)) >>> 0) / 4_294_967_296;
        // One draw serves twice: below the chance it is a spike, and what is left of it is even again.
        const lateUs =
          even < spikeChance
            ? floorUs - Math.log(1 - even * perSpike) * spikeMeanUs
            : floorUs - Math.log(1 - (even - spikeChance) * perQuiet) * meanUs;
        if (wake < highSleeps) highLateUs += lateUs;
        else gapLateUs += lateUs;
      }
      const madeUs = sleptHighUs + highLateUs;
      pulses.add(madeUs);
      const fallUs = riseUs + madeUs + loopOverheadUs;
      let nextUs = fallUs + sleptGapUs + gapLateUs;
      if (isDeadline) {
        deadlineUs += askedUs;
        if (fallUs > deadlineUs + askedUs / 2) {
          deadlineUs += Math.floor((fallUs - deadlineUs) / askedUs + 0.5) * askedUs;
        }
        // The sleep to the deadline is rounded up as well; a deadline just missed starts the frame at once.
        const waitUs = deadlineUs - fallUs;
        nextUs = waitUs > 0 ? fallUs + Math.ceil(waitUs / granularityUs) * granularityUs + gapLateUs : fallUs;
      }
      const periodUs = nextUs - riseUs;
      if (periodUs >= 1.5 * usualUs) this.lostFrames += Math.floor(periodUs / usualUs - 0.5);
      if (periodUs > longestPeriodUs) longestPeriodUs = periodUs;
      riseUs = nextUs;
    }
    this.#state = state;
    this.riseUs = riseUs;
    this.#deadlineUs = deadlineUs;
    this.longestPeriodUs = longestPeriodUs;
  }
}
