import type { EncodingOf } from "@core/project";
import { sleepsFor } from "@core/signal";
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
  /** Frames that began more than half a period late: the servo went without its pulse. */
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
 * board's model of lateness: `floor + exponential(mean)`, and with some chance a spike on top. The pulse is as long as its
 * sleep and the lateness of the wake-up that ends it. With a fixed period the program sleeps until a deadline, so that lateness
 * does not add up; a deadline that is already past by half a period is a lost frame, and the next is taken up instead.
 *
 * Runs in pieces: each `next()` does some frames and gives how many are done.
 */
export function* simulateWobble(ask: WobbleAsk): Generator<number, WobbleRun> {
  const { encoding, pulseUs, frames } = ask;
  const { framing, granularityUs, largestDelayUs, loopOverheadUs, lateness } = encoding;
  const { floorUs, meanUs, spikeChance, spikeMeanUs } = lateness;
  const askedUs = 1e6 / ask.frameHz;
  const highSleepUs = Math.ceil(pulseUs / granularityUs - 1e-9) * granularityUs;
  const highSleeps = sleepsFor(highSleepUs, largestDelayUs);
  const gapUs = framing.kind === "fixedGap" ? framing.gapUs : Math.max(askedUs - pulseUs, 0);
  const gapSleeps = sleepsFor(gapUs, largestDelayUs);
  const isDeadline = framing.kind === "fixedPeriod";
  const pulses = new PulseSpread(pulseUs);
  let lostFrames = 0;
  let longestPeriodUs = 0;
  let riseUs = 0;
  let deadlineUs = 0;
  let state = ask.seed >>> 0;

  // Random numbers stand in the loop itself: a call for each would cost more than the arithmetic.
  for (let done = 0; done < frames; ) {
    const until = Math.min(done + chunk, frames);
    for (; done < until; done += 1) {
      let lateUs = 0;
      let gapLateUs = 0;
      for (let wake = 0; wake < highSleeps + gapSleeps; wake += 1) {
        state = (state + 0x6d2b79f5) | 0;
        let mixed = Math.imul(state ^ (state >>> 15), state | 1);
        mixed ^= mixed + Math.imul(mixed ^ (mixed >>> 7), mixed | 61);
        const even = ((mixed ^ (mixed >>> 14)) >>> 0) / 4_294_967_296;
        // One draw serves twice: below the chance it is a spike, and what is left of it is even again.
        let late = floorUs;
        if (even < spikeChance) late -= Math.log(1 - even / spikeChance) * spikeMeanUs;
        else late -= Math.log(1 - (even - spikeChance) / (1 - spikeChance)) * meanUs;
        if (wake < highSleeps) lateUs += late;
        else gapLateUs += late;
      }
      const madeUs = highSleepUs + lateUs;
      pulses.add(madeUs);
      const fallUs = riseUs + madeUs + loopOverheadUs;
      let nextUs: number;
      if (isDeadline) {
        deadlineUs += askedUs;
        if (fallUs > deadlineUs + askedUs / 2) {
          const skipped = Math.floor((fallUs - deadlineUs) / askedUs + 0.5);
          lostFrames += skipped;
          deadlineUs += skipped * askedUs;
        }
        // The sleep to the deadline is rounded up as well; a deadline just missed starts the frame at once.
        const waitUs = deadlineUs - fallUs;
        nextUs = waitUs > 0 ? fallUs + Math.ceil(waitUs / granularityUs) * granularityUs + gapLateUs : fallUs;
      } else {
        nextUs = fallUs + Math.ceil(gapUs / granularityUs - 1e-9) * granularityUs + gapLateUs;
        if (nextUs - riseUs > 1.5 * (pulseUs + gapUs)) lostFrames += 1;
      }
      const periodUs = nextUs - riseUs;
      if (periodUs > longestPeriodUs) longestPeriodUs = periodUs;
      riseUs = nextUs;
    }
    yield done;
  }
  return { frames, lostFrames, meanPeriodUs: riseUs / frames, longestPeriodUs, pulses };
}
