import type { PositionalTruth, ServoCard, ServoTruth } from "@core/project";
import { ratedSpeedDegPerS } from "@core/servo";
import { seededRandom, seedOf } from "./random";

/** A servo without faults, 10 µs per degree about 90° at 1500 µs: for what is to be shown by one fault alone. */
export const faultlessTruth: PositionalTruth = {
  kind: "positional",
  cardId: "faultless",
  centre: 1500,
  midDeg: 90,
  perDeg: 10,
  bend: 0,
  stopLowDeg: 0,
  stopHighDeg: 180,
  deadband: 0,
  speedDegPerS: 400,
  noiseDeg: 0,
  startDeg: 90,
  backlashDeg: 0,
  feedback: null,
  idleMa: 10,
  movingMa: 200,
  stallMa: 800,
};

/** A small servo pushes with all it has when it is off by this: a weak one sags under its arm by what it must be off to push back. */
export const fullTorqueAtDeg = 4;

/** The share of its torque that its load takes at an angle: in full where the arm lies level, nothing where it hangs or stands. */
export const loadAt = ({ loadShare = 0, midDeg }: PositionalTruth, angleDeg: number): number =>
  loadShare * Math.cos(((angleDeg - midDeg) * Math.PI) / 180);

/**
 * Where a positional servo really turns to for a set point, before its end stops.
 * `bend` makes one half of the travel wider and the other narrower; the curve stays monotone for |bend| ≤ 0.3.
 */
export function trueAngleDeg(truth: PositionalTruth, setPoint: number): number {
  const straightDeg = (setPoint - truth.centre) / truth.perDeg;
  // A quarter turn either way is where the bend counts in full.
  const share = Math.max(-1.5, Math.min(1.5, straightDeg / 90));
  const unloadedDeg = truth.midDeg + straightDeg * (1 + truth.bend * share);
  if (!truth.loadShare) return unloadedDeg;
  return unloadedDeg - fullTorqueAtDeg * loadAt(truth, unloadedDeg);
}

/** The truth a project gives for a card, or one made up from its data sheet with quirks that stay the same. */
export function truthOf(card: ServoCard, given: readonly ServoTruth[]): ServoTruth {
  return given.find((truth) => truth.cardId === card.id) ?? truthFromSheet(card);
}

/** The sensor that a card says its servo has. A wire through a 10-bit converter is never quite where one would think. */
function sensorOf(card: ServoCard, perDeg: number, random: () => number) {
  if (card.kind === "continuous" || card.feedback === null) return null;
  return card.feedback.unit === "ticks"
    ? { atZeroDeg: card.nominal.low, perDeg, noise: 0.4 }
    : { atZeroDeg: 90 + 60 * random(), perDeg: (700 + 100 * random()) / card.travelDeg, noise: 1.2 };
}

function truthFromSheet(card: ServoCard): ServoTruth {
  const random = seededRandom(seedOf(card.id));
  const within = (spread: number) => (random() * 2 - 1) * spread;
  const speedDegPerS = ratedSpeedDegPerS(card) * (1 + within(0.15));
  if (card.kind === "continuous")
    return {
      kind: "continuous",
      cardId: card.id,
      neutral: card.nominal.neutral + within(25),
      deadband: card.deadband,
      span: (Math.abs(card.nominal.forward - card.nominal.back) / 2) * (0.7 + 0.3 * random()),
      fullSpeedDegPerS: speedDegPerS,
      noiseDeg: 0.05,
    };
  const perDeg = (card.nominal.high - card.nominal.low) / card.travelDeg;
  const midDeg = card.travelDeg / 2;
  // A smart servo goes by the very encoder that it reads: the two never disagree.
  const isSmart = card.kind === "smart";
  return {
    kind: "positional",
    cardId: card.id,
    centre: (card.nominal.low + card.nominal.high) / 2 + (isSmart ? 0 : within(3 * Math.abs(perDeg))),
    midDeg,
    perDeg: isSmart ? perDeg : perDeg * (1 + within(0.08)),
    bend: isSmart ? 0 : within(0.03),
    stopLowDeg: within(6),
    stopHighDeg: card.travelDeg + within(6),
    deadband: card.deadband,
    speedDegPerS,
    noiseDeg: 0.05,
    startDeg: midDeg,
    backlashDeg: 0.2 + 0.5 * random(),
    feedback: sensorOf(card, perDeg, random),
    idleMa: 10,
    movingMa: Math.max(card.rating.stallMa * 0.25, 60),
    stallMa: Math.max(card.rating.stallMa * 0.95, 200),
  };
}
