import type { ServoCard, SpinCalibration } from "@core/project";
import { type SpinCurve, type SpinKnot, threePointSpin } from "@core/signal";
import { calibrationInForce } from "./servoCurve";

export type ContinuousCard = Extract<ServoCard, { kind: "continuous" }>;

/** What a continuous servo's pulses mean: its newest calibration, or the data sheet where there is none. */
export function spinCurveOf(card: ContinuousCard): SpinCurve {
  const made = calibrationInForce(card);
  const { back, neutral, forward } = card.nominal;
  return made?.kind === "spin" ? spinCurveFrom(made) : threePointSpin(back, neutral, forward);
}

/** So small a spin still rests: it only keeps the curve from standing still between neutral and the edge of the rest. */
const restSpin = 0.002;
/** A measured speed that is not this much above the next slower one says that the servo turns no faster. */
const leastGain = 1.03;

/**
 * The curve of a calibration. With measured speeds a spin is a share of real speed: a spin of 1 is the fastest that it turns **both**
 * ways, so that equal spins are equal speeds. The edges of its rest are stepped over.
 */
export function spinCurveFrom(
  made: Pick<SpinCalibration, "back" | "neutral" | "forward" | "rest" | "speeds">,
): SpinCurve {
  const { back, neutral, forward, rest } = made;
  const isRising = forward > back;
  const ahead = fasterAndFaster(
    made.speeds.filter(({ degPerS }) => degPerS > 0),
    neutral,
  );
  const behind = fasterAndFaster(
    made.speeds.filter(({ degPerS }) => degPerS < 0),
    neutral,
  );
  const fullDegPerS = Math.min(Math.abs(ahead.at(-1)?.degPerS ?? 0), Math.abs(behind.at(-1)?.degPerS ?? 0));
  const edge = (way: 1 | -1): SpinKnot[] =>
    rest ? [{ spin: way * restSpin, pulseUs: way > 0 === isRising ? rest.high : rest.low }] : [];
  const side = (way: 1 | -1, speeds: readonly Speed[], endUs: number): SpinKnot[] => {
    const measured = speeds.map((one) => ({ spin: one.degPerS / fullDegPerS, pulseUs: one.setPoint }));
    const knots =
      fullDegPerS > 0 ? upToFull([...edge(way), ...measured], way) : [...edge(way), { spin: way, pulseUs: endUs }];
    const onward = outwardOnly(knots, neutral, way * (isRising ? 1 : -1));
    return onward.length > 0 ? onward : [{ spin: way, pulseUs: endUs }];
  };
  return {
    knots: [...side(-1, behind, back).toReversed(), { spin: 0, pulseUs: neutral }, ...side(1, ahead, forward)],
    neutralUs: neutral,
    fullDegPerS: fullDegPerS > 0 ? fullDegPerS : null,
  };
}

type Speed = SpinCalibration["speeds"][number];

/** From neutral outward, only what turns clearly faster than the one before it. */
function fasterAndFaster(speeds: readonly Speed[], neutralUs: number): readonly Speed[] {
  const outward = speeds.toSorted((a, b) => Math.abs(a.setPoint - neutralUs) - Math.abs(b.setPoint - neutralUs));
  const kept: Speed[] = [];
  for (const one of outward)
    if (Math.abs(one.degPerS) > leastGain * Math.abs(kept.at(-1)?.degPerS ?? 0)) kept.push(one);
  return kept;
}

/** Only what lies further out in pulse than the knot before it: a file may say anything, and a curve must be invertible. */
function outwardOnly(knots: readonly SpinKnot[], neutralUs: number, pulseWay: number): SpinKnot[] {
  const kept: SpinKnot[] = [];
  for (const knot of knots) {
    const last = kept.at(-1) ?? { spin: 0, pulseUs: neutralUs };
    if (pulseWay * (knot.pulseUs - last.pulseUs) > 0 && Math.abs(knot.spin) > Math.abs(last.spin)) kept.push(knot);
  }
  return kept;
}

/** The knots of one side, from neutral outward, cut where it reaches full spin. */
function upToFull(knots: readonly SpinKnot[], way: 1 | -1): SpinKnot[] {
  const kept: SpinKnot[] = [];
  for (const knot of knots) {
    const last = kept.at(-1);
    if (way * knot.spin <= 1) kept.push(knot);
    else if (last && way * last.spin < 1) {
      const share = (way - last.spin) / (knot.spin - last.spin);
      kept.push({ spin: way, pulseUs: last.pulseUs + share * (knot.pulseUs - last.pulseUs) });
    } else if (!last) kept.push(knot);
  }
  return kept;
}

/** What is known of a continuous servo now, to be changed in part and saved as its next calibration. */
export function spinKnown(card: ContinuousCard): Omit<SpinCalibration, "id" | "madeAt"> {
  const made = calibrationInForce(card);
  if (made?.kind === "spin") return { ...made, note: "" };
  return { kind: "spin", note: "", ...card.nominal, rest: null, speeds: [], creepDegPerS: null };
}
