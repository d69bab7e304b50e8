import { figure } from "@core/numbers";
import { type ValueOf, wholeBetween } from "@core/schema";
import * as z from "zod/mini";
import { clockHzSchema } from "./clock";
import type { EncodingKind } from "./encodingKind";
import { loadable, periodUsOf } from "./frame";
import { linearMaker } from "./maker";

/**
 * A hardware timer with a compare value. How long the pin is high: edge-aligned `compare + 1` ticks, inverted `TOP − compare`;
 * centre-aligned `2 × compare`, inverted `2 × (TOP − compare)`.
 */
const schema = z.strictObject({
  kind: z.literal("timer"),
  clockHz: clockHzSchema,
  prescale: wholeBetween(1, 65_536),
  counterBits: wholeBetween(8, 32),
  alignment: z.enum(["edge", "centre"]),
  output: z.enum(["normal", "inverted"]),
});

type Timer = ValueOf<typeof schema>;

/** One tick of a timer behind its prescaler, in µs. */
export const timerTickUs = (timer: Pick<Timer, "clockHz" | "prescale">): number =>
  (timer.prescale * 1e6) / timer.clockHz;

/**
 * The TOP with which a timer comes nearest to a frame rate, kept within its counter.
 * Edge-aligned it counts 0…TOP: `f = clk / (prescale × (TOP + 1))`.
 * Centre-aligned it counts up and down: `f = clk / (2 × prescale × TOP)`.
 */
export function timerTop(timer: Timer, frameHz: number): number {
  return Math.min(Math.max(wishedTop(timer, frameHz), 1), 2 ** timer.counterBits - 1);
}

function wishedTop({ clockHz, prescale, alignment }: Timer, frameHz: number): number {
  const ticks = clockHz / (prescale * frameHz);
  return alignment === "edge" ? Math.round(ticks) - 1 : Math.round(ticks / 2);
}

/** The frame that a TOP really makes, in µs. */
export const timerPeriodUs = (timer: Timer, top: number): number =>
  timerTickUs(timer) * (timer.alignment === "edge" ? top + 1 : 2 * top);

/**
 * When in its frame a timer's pulse begins. Edge-aligned the pin is high from 0 to the compare value, inverted from there to the end;
 * centre-aligned the pulse lies about the 0 of the counter, so that it begins in the frame before, inverted about its TOP.
 */
function timerRiseUs({ alignment, output }: Timer, pulseUs: number, periodUs: number): number {
  if (alignment === "edge") return output === "normal" ? 0 : periodUs - pulseUs;
  return output === "normal" ? periodUs - pulseUs / 2 : (periodUs - pulseUs) / 2;
}

export const timer: EncodingKind<typeof schema> = {
  schema,
  name: "Timer with a compare value",
  begin: () => ({
    kind: "timer",
    clockHz: 20_000_000,
    prescale: 8,
    counterBits: 16,
    alignment: "edge",
    output: "normal",
  }),
  maker: (encoding, frameHz) => {
    const tickUs = timerTickUs(encoding);
    const top = timerTop(encoding, frameHz);
    const periodUs = timerPeriodUs(encoding, top);
    const isInverted = encoding.output === "inverted";
    const ticksPerCompare = encoding.alignment === "edge" ? 1 : 2;
    const ticksAtZero = encoding.alignment === "edge" ? (isInverted ? top : 1) : isInverted ? 2 * top : 0;
    return linearMaker({
      unit: "count",
      countName: "compare",
      periodUs,
      riseUsAt: (pulseUs) => timerRiseUs(encoding, pulseUs, periodUs),
      gain: (isInverted ? -1 : 1) * ticksPerCompare * tickUs,
      offset: ticksAtZero * tickUs,
      lowestCount: 0,
      highestCount: top,
      rounding: "round",
    });
  },
  mostDigits: ({ counterBits }) => String(2 ** counterBits - 1).length,
  working: (encoding, { askedHz, periodUs, setPoint }) => {
    const tickUs = timerTickUs(encoding);
    const top = timerTop(encoding, askedHz);
    const isEdge = encoding.alignment === "edge";
    return [
      `tick = ${encoding.prescale} / ${figure(encoding.clockHz / 1e6)} MHz = ${figure(tickUs)} µs`,
      isEdge
        ? `TOP = ${figure(encoding.clockHz)} / (${encoding.prescale} × ${figure(askedHz)}) − 1 = ${loadable(wishedTop(encoding, askedHz), top)}, period = (TOP + 1) × tick = ${figure(periodUs)} µs`
        : `TOP = ${figure(encoding.clockHz)} / (2 × ${encoding.prescale} × ${figure(askedHz)}) = ${loadable(wishedTop(encoding, askedHz), top)}, period = 2 × TOP × tick = ${figure(periodUs)} µs`,
      `high for ${figure(setPoint)} / ${figure(tickUs)} = ${figure(setPoint / tickUs)} ticks`,
      compareLine(encoding, setPoint / tickUs, top),
    ];
  },
  problems: (encoding, askedHz) => {
    const reachedUs = timerPeriodUs(encoding, timerTop(encoding, askedHz));
    return reachedUs < periodUsOf(askedHz) * 0.99
      ? [
          `${encoding.counterBits} bits at ticks of ${figure(timerTickUs(encoding), 2)} µs reach ${figure(1e6 / reachedUs, 2)} Hz at the lowest, not ${figure(askedHz, 2)} Hz. Take a larger prescale or a wider counter.`,
        ]
      : [];
  },
};

function compareLine({ alignment, output }: Timer, ticks: number, top: number): string {
  const isEdge = alignment === "edge";
  if (output === "normal")
    return isEdge
      ? `compare = ${figure(ticks)} − 1 = ${figure(ticks - 1)}`
      : `compare = ${figure(ticks)} / 2 = ${figure(ticks / 2)}`;
  return isEdge
    ? `compare = TOP − ${figure(ticks)} = ${figure(top - ticks)}`
    : `compare = TOP − ${figure(ticks)} / 2 = ${figure(top - ticks / 2)}`;
}
