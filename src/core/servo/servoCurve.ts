import { type Curve, fitCurve } from "@core/calibrate";
import type { ServoCard } from "@core/project";
import type { SpinCurve } from "@core/signal";

export type TravellingCard = Extract<ServoCard, { kind: "positional" | "smart" }>;
export type ContinuousCard = Extract<ServoCard, { kind: "continuous" }>;

/** The calibration in force, or null while only the data sheet is known. */
export const calibrationInForce = (card: ServoCard) => card.calibrations.at(-1) ?? null;

/** The data sheet's line: its set points at 0° and at the end of the travel. */
export function nominalCurve(card: TravellingCard): Curve {
  const slopePerDeg = (card.nominal.high - card.nominal.low) / card.travelDeg;
  return { kind: "line", slopePerDeg, intercept: card.nominal.low };
}

/** The curve that holds for a servo: its newest calibration, or the data sheet's where there is none. */
export function curveOf(card: TravellingCard): Curve {
  const made = calibrationInForce(card);
  if (!made || made.kind === "spin") return nominalCurve(card);
  const fit = fitCurve(made.kind, made.points);
  return fit.ok ? fit.value : nominalCurve(card);
}

/** What a continuous servo's pulses mean: its newest calibration, or the data sheet where there is none. */
export function spinCurveOf(card: ContinuousCard): SpinCurve {
  const made = calibrationInForce(card);
  const { back, neutral, forward } = made?.kind === "spin" ? made : card.nominal;
  return { backUs: back, neutralUs: neutral, forwardUs: forward };
}

/** Rated speed is given as seconds per 60°. */
export const ratedSpeedDegPerS = (card: ServoCard): number => 60 / card.rating.secPer60Deg;
