import { type Curve, fitCurve } from "@core/calibrate";
import type { Calibration, ServoCard } from "@core/project";

export type TravellingCard = Extract<ServoCard, { kind: "positional" | "smart" }>;

/** The calibration in force, or null while only the data sheet is known. */
export const calibrationInForce = (card: ServoCard) => card.calibrations.at(-1) ?? null;

/** The data sheet's line: its set points at 0° and at the end of the travel. */
export function nominalCurve(card: TravellingCard): Curve {
  const slopePerDeg = (card.nominal.high - card.nominal.low) / card.travelDeg;
  return { kind: "line", slopePerDeg, intercept: card.nominal.low };
}

/** The curve that holds for a servo: its newest calibration, or the data sheet's where there is none. */
export const curveOf = (card: TravellingCard): Curve => curveFrom(card, card.calibrations.at(-1));

/** The curve that held before the one in force: the calibration before it, or the data sheet's. */
export const earlierCurve = (card: TravellingCard): Curve => curveFrom(card, card.calibrations.at(-2));

/** The curve of any of a card's calibrations; the data sheet's for none. */
export function curveFrom(card: TravellingCard, made: Calibration | undefined): Curve {
  if (!made || made.kind === "spin") return nominalCurve(card);
  const fit = fitCurve(made.kind, made.points);
  return fit.ok ? fit.value : nominalCurve(card);
}

/** Rated speed is given as seconds per 60°. */
export const ratedSpeedDegPerS = (card: ServoCard): number => 60 / card.rating.secPer60Deg;
