import type { JointBench } from "@stores/jointBench";

/** What the outer scale of a dial may speak: the set point itself, its duty, or the board's own number. */
const outerUnits = ["set point", "duty", "number"] as const;
export type OuterUnit = (typeof outerUnits)[number];

export interface OuterMeasure {
  readonly unit: string;
  readonly decimals: number;
  ofSetPoint(setPoint: number): number;
  toSetPoint(value: number): number;
}

/** Which of them differ for a joint: a board may take µs or per cent as its own number. */
export const outerUnitsOf = ({ maker }: JointBench): readonly OuterUnit[] =>
  outerUnits.filter((unit) => unit !== "number" || (maker.countName !== "µs" && maker.countName !== "%"));

/** Duty and counts only make sense for pulses; a smart servo's scale is always in ticks. */
export function outerMeasureOf({ card, maker }: JointBench, unit: OuterUnit): OuterMeasure {
  if (card.kind === "smart")
    return { unit: "ticks", decimals: 0, ofSetPoint: (tick) => tick, toSetPoint: (tick) => tick };
  if (unit === "duty") {
    const percentPerUs = 100 / maker.periodUs;
    return {
      unit: "%",
      decimals: 2,
      ofSetPoint: (pulseUs) => pulseUs * percentPerUs,
      toSetPoint: (percent) => percent / percentPerUs,
    };
  }
  if (unit === "number")
    return {
      unit: maker.countName === "count" ? "counts" : maker.countName,
      decimals: 0,
      ofSetPoint: (pulseUs) => maker.exactCount(pulseUs),
      toSetPoint: (count) => maker.toSetPoint(count),
    };
  return { unit: "µs", decimals: 0, ofSetPoint: (pulseUs) => pulseUs, toSetPoint: (pulseUs) => pulseUs };
}
