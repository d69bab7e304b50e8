import { type Curve, toAngleDeg, toSetPoint } from "@core/calibrate";
import { type Encoding, makerOf, type SignalMaker } from "@core/encodings";
import type { TravellingCard } from "@core/servo";
import { curveOf } from "@core/servo";

/** A way of making signals to be compared with others. */
export interface Contender {
  readonly id: string;
  readonly label: string;
  readonly encoding: Encoding;
  readonly frameHz: number;
}

/** How one way of making signals serves one servo over its whole travel. Angles are the servo's own. */
export interface Comparison {
  readonly contender: Contender;
  readonly frameHz: number;
  readonly stepUs: number;
  readonly stepDeg: number;
  readonly worstErrorDeg: number;
  readonly meanErrorDeg: number;
  /** The lowest and highest angle that can really be reached within travel, hard window and count. */
  readonly lowestDeg: number;
  readonly highestDeg: number;
  /** The error at each of `angles`, in degrees. */
  readonly errorsDeg: Float64Array;
}

const samples = 1801;

/** The angles at which every comparison is made: the servo's travel in 1800 equal parts. */
export const comparedAngles = (card: TravellingCard): Float64Array =>
  Float64Array.from({ length: samples }, (_, at) => (card.travelDeg * at) / (samples - 1));

/** Compares a way of making signals for one servo at every angle of its travel. */
export function compareBoard(card: TravellingCard, contender: Contender, angles: Float64Array): Comparison {
  const curve = curveOf(card);
  const maker = makerOf(contender.encoding, contender.frameHz);
  const errorsDeg = new Float64Array(angles.length);
  let worst = 0;
  let sum = 0;
  for (let at = 0; at < angles.length; at += 1) {
    const angleDeg = angles[at] as number;
    const made = maker.toSetPoint(maker.toCount(toSetPoint(curve, angleDeg)));
    const error = toAngleDeg(curve, made) - angleDeg;
    errorsDeg[at] = error;
    worst = Math.max(worst, Math.abs(error));
    sum += Math.abs(error);
  }
  return {
    contender,
    frameHz: 1e6 / maker.periodUs,
    stepUs: maker.step,
    stepDeg: Math.abs(maker.step / curve.slopePerDeg),
    worstErrorDeg: worst,
    meanErrorDeg: sum / angles.length,
    ...reachOf(card, curve, maker),
    errorsDeg,
  };
}

/** The angles of the first and last count whose signal lies inside the hard window and the travel. */
function reachOf(card: TravellingCard, curve: Curve, maker: SignalMaker) {
  const ends = [toSetPoint(curve, 0), toSetPoint(curve, card.travelDeg)];
  const low = Math.max(card.window.low, Math.min(...ends));
  const high = Math.min(card.window.high, Math.max(...ends));
  const counts = [maker.exactCount(low), maker.exactCount(high)];
  const first = Math.max(Math.ceil(Math.min(...counts) - 1e-9), maker.lowestCount);
  const last = Math.min(Math.floor(Math.max(...counts) + 1e-9), maker.highestCount);
  if (first > last) return { lowestDeg: Number.NaN, highestDeg: Number.NaN };
  const reached = [first, last].map((count) => toAngleDeg(curve, maker.toSetPoint(count)));
  return { lowestDeg: Math.min(...reached), highestDeg: Math.max(...reached) };
}
