import { type Curve, fitCurve } from "@core/calibrate";
import { nominalCurve, type TravellingCard } from "./servoCurve";

/**
 * What a reading says of the angle, as a curve whose set points are readings. Two points or more give it; a register of a smart servo is
 * believed without any, by its data sheet; null where nothing can be said yet.
 */
export function feedbackCurveOf(card: TravellingCard): Curve | null {
  if (!card.feedback) return null;
  const points = card.feedback.points.map(({ angleDeg, reading }) => ({ angleDeg, setPoint: reading }));
  const fit = fitCurve(points.length >= 4 ? "piecewise" : "line", points);
  if (fit.ok) return fit.value;
  return card.feedback.unit === "ticks" ? nominalCurve(card) : null;
}
