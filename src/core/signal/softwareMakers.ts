import type { EncodingOf } from "@core/project";
import { periodUsOf } from "./frame";
import { linearMaker, type SignalMaker } from "./maker";

/** A library call that takes µs: whole ticks of the timer behind it. */
export function microsecondMaker(encoding: EncodingOf<"microseconds">, frameHz: number): SignalMaker {
  const periodUs = periodUsOf(frameHz);
  return linearMaker({
    unit: "count",
    registerName: "µs",
    perRegister: encoding.tickUs,
    periodUs,
    gain: encoding.tickUs,
    offset: 0,
    lowestRegister: 0,
    highestRegister: Math.floor(periodUs / encoding.tickUs + 1e-9),
    rounding: "round",
  });
}

/** The pulse at which a frame that depends on its pulse is quoted. */
const quotedPulseUs = 1500;

/**
 * A program that sleeps high, then sleeps low. What it does besides lengthens the frame; with a fixed gap
 * (`period = pulse + gap`) the frame also changes with the pulse: 1500 µs and 20 ms of gap are 46.51 Hz.
 * Late wake-ups come on top and differ from frame to frame; see `core/wobble`.
 */
export function softwareMaker(encoding: EncodingOf<"software">, frameHz: number): SignalMaker {
  const { framing, loopOverheadUs, granularityUs } = encoding;
  const askedUs = periodUsOf(frameHz);
  const periodUsAt = (pulseUs: number) =>
    (framing.kind === "fixedPeriod" ? Math.max(askedUs, pulseUs) : pulseUs + framing.gapUs) + loopOverheadUs;
  const periodUs = periodUsAt(quotedPulseUs);
  return linearMaker({
    unit: "count",
    registerName: "µs",
    perRegister: granularityUs,
    periodUs,
    gain: granularityUs,
    offset: 0,
    lowestRegister: 0,
    highestRegister: Math.floor(periodUs / granularityUs + 1e-9),
    rounding: "round",
    periodUsAt,
  });
}

/** How many sleeps it takes to wait this long when one sleep has a largest length. */
export const sleepsFor = (waitUs: number, largestDelayUs: number): number =>
  Math.max(1, Math.ceil(waitUs / largestDelayUs - 1e-9));
