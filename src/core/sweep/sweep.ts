import type { JointBench } from "@core/rig";
import { ratedSpeedDegPerS } from "@core/servo";

/** A sweep in steps, in joint degrees. */
export interface SweepAsk {
  readonly fromDeg: number;
  readonly toDeg: number;
  readonly stepDeg: number;
  readonly dwellMs: number;
  /** What the person's own program rounds each position to. */
  readonly rounding: "none" | "wholeDegrees" | "wholeCounts";
}

/** More positions than this are a mistake of units. */
const mostPositions = 20_000;

/** Why such a sweep cannot be made, with what would work; null when it can. */
export function sweepProblem(ask: SweepAsk, { joint, map }: JointBench): string | null {
  const { fromDeg, toDeg, stepDeg, dwellMs } = ask;
  if (map.targetUnit === "spin") return `${joint.label} turns on and on; a sweep needs a joint with angles.`;
  if (!(stepDeg > 0)) return "A step is more than 0°. The direction follows from where the sweep goes.";
  if (!(dwellMs > 0)) return "A dwell is more than 0 ms, or the servo would have no time at all.";
  if (fromDeg === toDeg) return "The sweep ends where it begins.";
  if (Math.abs(toDeg - fromDeg) / stepDeg > mostPositions)
    return `That is more than ${mostPositions} positions. Take a larger step.`;
  for (const deg of [fromDeg, toDeg])
    if (deg < map.lowTarget || deg > map.highTarget)
      return `${deg}° is past the travel of ${joint.label}, ${map.lowTarget}° to ${map.highTarget}°.`;
  return null;
}

/**
 * All positions of a sweep with both ends in it: `floor(|to − from| / step) + 1`, and one more, short, step where the step
 * does not divide the span. The end is the end itself, never a sum of steps that may miss it.
 */
export function sweepPositions({ fromDeg, toDeg, stepDeg }: SweepAsk): readonly number[] {
  const way = Math.sign(toDeg - fromDeg);
  const spanDeg = Math.abs(toDeg - fromDeg);
  const whole = Math.floor(spanDeg / stepDeg + 1e-9);
  const positions = Array.from({ length: whole + 1 }, (_, at) => fromDeg + way * at * stepDeg);
  if (spanDeg - whole * stepDeg > 1e-9 * spanDeg) positions.push(toDeg);
  else positions[positions.length - 1] = toDeg;
  return positions;
}

/** What the board is really told for each position, after the person's own rounding and the board's. */
export interface SweptPosition {
  readonly askedDeg: number;
  /** After the person's rounding. */
  readonly sentDeg: number;
  readonly count: number;
  readonly madeDeg: number;
}

export function sweptPositions(ask: SweepAsk, { map, maker }: JointBench): readonly SweptPosition[] {
  return sweepPositions(ask).map((askedDeg) => {
    const sentDeg = ask.rounding === "wholeDegrees" ? Math.round(askedDeg) : askedDeg;
    const exact = maker.exactCount(map.toSetPoint(sentDeg));
    // "Whole counts" is what integer arithmetic does: it cuts off, whatever the board would round.
    const count = ask.rounding === "wholeCounts" ? Math.trunc(exact) : maker.toCount(map.toSetPoint(sentDeg));
    return { askedDeg, sentDeg, count, madeDeg: map.toTarget(maker.toSetPoint(count)) };
  });
}

/** What is to be known of a sweep before it is run. */
export interface SweepFacts {
  readonly positions: number;
  /** From the first to the end of the last dwell. */
  readonly totalMs: number;
  readonly speedDegPerS: number;
  readonly ratedDegPerS: number;
  /** The change of count from one step to the next, at least and at most; 0 is a repeat. */
  readonly repeated: number;
  readonly skipped: number;
  /** Remarks, each a sentence. */
  readonly remarks: readonly string[];
}

/** A step coarser than this looks jerky to the eye, in degrees. */
const jerkyDeg = 2;
const short = (value: number) => String(Number(value.toFixed(2)));

export function sweepFacts(ask: SweepAsk, bench: JointBench, swept: readonly SweptPosition[]): SweepFacts {
  const { card, map, maker } = bench;
  const ratedDegPerS = ratedSpeedDegPerS(card);
  const speedDegPerS = (ask.stepDeg * 1000) / ask.dwellMs;
  const boardStepDeg = degPerSetPoint(bench) * maker.step;
  const deadbandDeg = degPerSetPoint(bench) * card.deadband;
  let repeated = 0;
  let skipped = 0;
  for (let at = 1; at < swept.length; at += 1) {
    const change = Math.abs((swept[at]?.count ?? 0) - (swept[at - 1]?.count ?? 0));
    if (change === 0) repeated += 1;
    else if (boardStepDeg > 0 && change > Math.ceil((ask.stepDeg / boardStepDeg) * 1.5 + 1e-9))
      skipped += change - Math.round(ask.stepDeg / boardStepDeg);
  }
  const remarks = [
    speedDegPerS > ratedDegPerS &&
      `${short(speedDegPerS)} °/s is faster than the rated ${short(ratedDegPerS)} °/s: the servo falls behind and the ends are cut short. Dwell at least ${short((ask.stepDeg * 1000) / ratedDegPerS)} ms.`,
    ask.stepDeg > jerkyDeg && `Steps of ${short(ask.stepDeg)}° look jerky; below ${jerkyDeg}° the eye sees one motion.`,
    ask.stepDeg < boardStepDeg &&
      `The board’s own step is ${short(boardStepDeg)}°: smaller ones repeat positions and then jump.`,
    ask.stepDeg < deadbandDeg &&
      `The servo’s deadband is about ${short(deadbandDeg)}°: it will wait for several steps and then move at once.`,
    ask.dwellMs < maker.periodUs / 1000 &&
      `A dwell of ${short(ask.dwellMs)} ms is shorter than a frame of ${short(maker.periodUs / 1000)} ms: some positions are never sent.`,
    repeated > 0 && ask.rounding !== "none" && `Rounding repeats ${repeated} of the ${swept.length} positions.`,
    skipped > 0 && ask.rounding !== "none" && "Rounding makes some steps larger than the others.",
    map.fastestPerS < speedDegPerS &&
      `The speed limit of this joint, ${short(map.fastestPerS)} °/s, is slower than that.`,
  ].filter((remark) => remark !== false);
  return {
    positions: swept.length,
    totalMs: swept.length * ask.dwellMs,
    speedDegPerS,
    ratedDegPerS,
    repeated,
    skipped,
    remarks,
  };
}

/** Degrees per set point, about the middle of the travel. */
export const degPerSetPoint = ({ map }: Pick<JointBench, "map">): number => {
  const middle = map.toSetPoint((map.lowTarget + map.highTarget) / 2);
  return Math.abs(map.toTarget(middle + 1) - map.toTarget(middle));
};

/**
 * The same sweep as smooth as this board can: one step of the board (or of the servo's deadband, where that is wider) at a time,
 * a whole number of frames for each, and never faster than rated. The time it takes stays as near as that allows.
 */
export function smoothest(ask: SweepAsk, bench: JointBench): SweepAsk {
  const { card, maker, map } = bench;
  const frameMs = maker.periodUs / 1000;
  const degPerStep = degPerSetPoint(bench) * maker.step;
  const fastest = Math.min(ratedSpeedDegPerS(card), map.fastestPerS, (ask.stepDeg * 1000) / ask.dwellMs);
  // A frame is the shortest dwell: at high speed the step grows with it.
  // Whole steps of the board, and more than the deadband: else some would not be noticed, and the next be twice as wide.
  const noticed = Math.floor(card.deadband / maker.step + 1e-9) + 1;
  const stepDeg = degPerStep * Math.max(noticed, Math.floor((fastest * frameMs) / 1000 / degPerStep + 1e-9));
  const dwellMs = Math.ceil((stepDeg * 1000) / fastest / frameMs - 1e-9) * frameMs;
  return { ...ask, stepDeg, dwellMs, rounding: "none" };
}
