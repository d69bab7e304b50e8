import type { EncodingOf } from "@core/project";
import { linearMaker, type SignalMaker } from "./maker";

type Timer = EncodingOf<"timer">;

/** One tick of a timer behind its prescaler, in µs. */
export const timerTickUs = (timer: Pick<Timer, "clockHz" | "prescale">): number =>
  (timer.prescale * 1e6) / timer.clockHz;

/**
 * The TOP with which a timer comes nearest to a frame rate, kept within its counter.
 * Edge-aligned it counts 0…TOP: `f = clk / (prescale × (TOP + 1))`.
 * Centre-aligned it counts up and down: `f = clk / (2 × prescale × TOP)`.
 */
export function timerTop(timer: Timer, frameHz: number): number {
  const ticks = timer.clockHz / (timer.prescale * frameHz);
  const top = timer.alignment === "edge" ? Math.round(ticks) - 1 : Math.round(ticks / 2);
  return Math.min(Math.max(top, 1), 2 ** timer.counterBits - 1);
}

/** The frame that a TOP really makes, in µs. */
export const timerPeriodUs = (timer: Timer, top: number): number =>
  timerTickUs(timer) * (timer.alignment === "edge" ? top + 1 : 2 * top);

/**
 * How long the pin is high for a compare value.
 * Edge-aligned: `compare + 1` ticks, inverted `TOP − compare`. Centre-aligned: `2 × compare`, inverted `2 × (TOP − compare)`.
 */
export function timerMaker(timer: Timer, frameHz: number): SignalMaker {
  const tickUs = timerTickUs(timer);
  const top = timerTop(timer, frameHz);
  const isInverted = timer.output === "inverted";
  const ticksPerCompare = timer.alignment === "edge" ? 1 : 2;
  const ticksAtZero = timer.alignment === "edge" ? (isInverted ? top : 1) : isInverted ? 2 * top : 0;
  return linearMaker({
    unit: "count",
    registerName: "compare",
    periodUs: timerPeriodUs(timer, top),
    gain: (isInverted ? -1 : 1) * ticksPerCompare * tickUs,
    offset: ticksAtZero * tickUs,
    lowestRegister: 0,
    highestRegister: top,
    rounding: "round",
  });
}
