import { type EncodingOf, makerOf, timerPeriodUs, timerTickUs, timerTop } from "@core/encodings";
import type { Range } from "@core/project";

/** What a person knows of a timer and wants of it. */
export interface TimerAsk {
  readonly clockHz: number;
  readonly counterBits: number;
  readonly prescalers: readonly number[];
  /** Both are tried where either will do. */
  readonly alignment: "edge" | "centre" | "either";
  readonly output: "normal" | "inverted";
  readonly frameHz: number;
  /** The frame rates that the servo accepts: where a setting cannot make the wanted one, another of these will do. */
  readonly acceptsHz: Range;
  /** The card's pulses, in µs, and how many µs make a degree. */
  readonly pulsesUs: Range;
  readonly usPerDeg: number;
}

export interface WorkablePlan {
  readonly kind: "workable";
  readonly timer: EncodingOf<"timer">;
  readonly alignment: "edge" | "centre";
  readonly prescale: number;
  readonly top: number;
  readonly frameHz: number;
  /** Of the asked frame rate, in per cent; positive is too fast. */
  readonly frameErrorPercent: number;
  /** The frame rate to ask the timer for: what was wanted, or the nearest that it can make. */
  readonly askedHz: number;
  readonly stepUs: number;
  readonly stepDeg: number;
  /** Compare values for the lowest, middle and highest pulse. */
  readonly compareLow: number;
  readonly compareCentre: number;
  readonly compareHigh: number;
  /** The calculation, line by line. */
  readonly maths: readonly string[];
}

export interface UnworkablePlan {
  readonly kind: "unworkable";
  readonly alignment: "edge" | "centre";
  readonly prescale: number;
  /** Why not, with numbers. */
  readonly why: string;
}

export type TimerPlan = WorkablePlan | UnworkablePlan;

/** A frame that is off by more than this is not the asked one any more. */
const largestFrameError = 0.02;
/** A pulse may be no more of its frame than this. */
const fullestFrame = 0.9;
/** Fewer steps than this between the lowest and highest pulse are useless. */
const fewestSteps = 20;

const n = (value: number, decimals = 3) => String(Number(value.toFixed(decimals)));

/**
 * Every way to set a timer up for a servo, workable plans first: the most exact frame, then the finest step.
 * Formulas: `core/encodings/timer.ts`.
 */
export function planTimer(ask: TimerAsk): readonly TimerPlan[] {
  const alignments = ask.alignment === "either" ? (["edge", "centre"] as const) : [ask.alignment];
  const plans = alignments.flatMap((alignment) => ask.prescalers.map((prescale) => planWith(ask, alignment, prescale)));
  return plans.sort((a, b) => rankOf(a) - rankOf(b));
}

/** What a planner begins with, until a person says which prescalers their timer has. */
export const powersOfTwo: readonly number[] = Array.from({ length: 11 }, (_, power) => 2 ** power);

/** Prescalers as a person types them, parted by commas, semicolons or blanks. What is no number becomes NaN, for `askProblem` to refuse. */
export const readPrescalers = (text: string): number[] =>
  text
    .split(/[\s,;]+/)
    .filter(Boolean)
    .map(Number);

/** Why nothing can be planned at all, or null. */
export function askProblem(ask: TimerAsk): string | null {
  if (!(ask.clockHz > 0)) return "A timer without a clock stands still. Type its clock, such as 20 MHz.";
  if (ask.prescalers.length === 0 || ask.prescalers.some((prescale) => !Number.isInteger(prescale) || prescale < 1))
    return "Prescalers are whole numbers from 1, parted by commas, such as 1, 2, 4, 8.";
  if (!(ask.frameHz > 0)) return "A frame rate is more than 0 Hz; most servos want 50.";
  const { low, high } = ask.acceptsHz;
  if (ask.frameHz < low || ask.frameHz > high)
    return `This servo accepts ${n(low)} to ${n(high)} Hz, by its card. Ask for one of these, or change the card.`;
  if (1e6 / ask.frameHz <= ask.pulsesUs.high)
    return `At ${n(ask.frameHz)} Hz a frame lasts ${n(1e6 / ask.frameHz)} µs, but the pulses reach ${n(ask.pulsesUs.high)} µs. Ask for less than ${n(1e6 / ask.pulsesUs.high, 0)} Hz.`;
  return null;
}

function planWith(ask: TimerAsk, alignment: "edge" | "centre", prescale: number): TimerPlan {
  const { clockHz, counterBits, output, acceptsHz } = ask;
  const timer = { kind: "timer", clockHz, prescale, counterBits, alignment, output } as const;
  const tickUs = timerTickUs(timer);
  const slowestHz = 1e6 / timerPeriodUs(timer, 2 ** counterBits - 1);
  const refuse = (why: string): UnworkablePlan => ({ kind: "unworkable", alignment, prescale, why });
  if (slowestHz > acceptsHz.high * (1 + largestFrameError))
    return refuse(
      `${counterBits} bits at this clock reach ${n(slowestHz, 2)} Hz at the lowest with a prescale of ${prescale}; the servo accepts up to ${n(acceptsHz.high, 2)} Hz.`,
    );
  const askedHz = Math.max(ask.frameHz, slowestHz);
  const top = timerTop(timer, askedHz);
  const maker = makerOf(timer, askedHz);
  const frameHz = 1e6 / maker.periodUs;
  if (frameHz < acceptsHz.low * (1 - largestFrameError) || frameHz > acceptsHz.high * (1 + largestFrameError))
    return refuse(
      `The nearest frame is ${n(frameHz, 2)} Hz: one tick of ${n(tickUs)} µs is too coarse to come closer, and the servo accepts ${n(acceptsHz.low, 2)} to ${n(acceptsHz.high, 2)} Hz.`,
    );
  if (ask.pulsesUs.high > fullestFrame * maker.periodUs)
    return refuse(
      `At ${n(frameHz, 2)} Hz the longest pulse, ${n(ask.pulsesUs.high, 0)} µs, fills the frame of ${n(maker.periodUs, 0)} µs: a servo sees no pulse that does not end.`,
    );
  const steps = (ask.pulsesUs.high - ask.pulsesUs.low) / maker.step;
  if (steps < fewestSteps)
    return refuse(
      `One step is ${n(maker.step, 1)} µs or ${n(maker.step / Math.abs(ask.usPerDeg), 2)}°: only ${Math.floor(steps)} positions over the whole travel.`,
    );
  const middleUs = (ask.pulsesUs.low + ask.pulsesUs.high) / 2;
  const compares = [ask.pulsesUs.low, middleUs, ask.pulsesUs.high].map((pulseUs) => maker.toCount(pulseUs));
  const [compareLow = 0, compareCentre = 0, compareHigh = 0] = compares;
  return {
    kind: "workable",
    timer,
    alignment,
    prescale,
    top,
    frameHz,
    frameErrorPercent: 100 * (frameHz / ask.frameHz - 1),
    askedHz,
    stepUs: maker.step,
    stepDeg: maker.step / Math.abs(ask.usPerDeg),
    compareLow,
    compareCentre,
    compareHigh,
    maths: mathsOf(timer, askedHz, top, middleUs, compareCentre, maker.toSetPoint(compareCentre)),
  };
}

function mathsOf(
  timer: EncodingOf<"timer">,
  askedHz: number,
  top: number,
  pulseUs: number,
  compare: number,
  madeUs: number,
): readonly string[] {
  const tickUs = timerTickUs(timer);
  const periodUs = timerPeriodUs(timer, top);
  const isEdge = timer.alignment === "edge";
  const high = isEdge
    ? timer.output === "normal"
      ? `high = (compare + 1) × tick = (${compare} + 1) × ${n(tickUs)}`
      : `high = (TOP − compare) × tick = (${top} − ${compare}) × ${n(tickUs)}`
    : timer.output === "normal"
      ? `high = 2 × compare × tick = 2 × ${compare} × ${n(tickUs)}`
      : `high = 2 × (TOP − compare) × tick = 2 × (${top} − ${compare}) × ${n(tickUs)}`;
  return [
    `tick = ${timer.prescale} / ${n(timer.clockHz / 1e6, 6)} MHz = ${n(tickUs, 6)} µs`,
    isEdge
      ? `TOP = clock / (prescale × frame) − 1 = ${n(timer.clockHz)} / (${timer.prescale} × ${n(askedHz)}) − 1 = ${n(timer.clockHz / (timer.prescale * askedHz) - 1)} → ${top}`
      : `TOP = clock / (2 × prescale × frame) = ${n(timer.clockHz)} / (2 × ${timer.prescale} × ${n(askedHz)}) = ${n(timer.clockHz / (2 * timer.prescale * askedHz))} → ${top}`,
    `period = ${isEdge ? "(TOP + 1)" : "2 × TOP"} × tick = ${n(periodUs)} µs, so the frame is ${n(1e6 / periodUs, 4)} Hz`,
    `centre: ${n(pulseUs)} µs wants ${n(pulseUs / tickUs)} ticks high; ${high} = ${n(madeUs)} µs`,
  ];
}

/** Workable first; among them the frame error in tenths of a per cent, then the step. */
const rankOf = (plan: TimerPlan): number =>
  plan.kind === "unworkable"
    ? 1e9 + plan.prescale
    : Math.round(Math.abs(plan.frameErrorPercent) * 10) * 1e4 + plan.stepUs;
