import type { ServoTruth } from "@core/project";
import type { JointBench } from "@core/rig";
import { jointDegOf, servoDegOf } from "@core/rig";
import { ratedSpeedDegPerS } from "@core/servo";
import { faultlessTruth, SimServo } from "@core/sim";
import { degPerSetPoint, type SweptPosition } from "./sweep";

/** A sweep over time: what is asked and where the servo stands, in joint degrees, at even times. */
export interface SweepRun {
  readonly stepMs: number;
  readonly askedDeg: Float64Array;
  readonly actualDeg: Float64Array;
  /** The furthest that the servo was from a position when its dwell was over, and from the end when the last was. */
  readonly largestLagDeg: number;
  readonly endErrorDeg: number;
}

const mostSamples = 4000;

/**
 * Runs a sweep with a servo that does what its card says: it turns at rated speed, notices no change within its deadband, and follows
 * the card's own curve. (What a servo's hidden truth adds, calibration finds out; here the sweep itself is judged.)
 */
export function simulateSweep(swept: readonly SweptPosition[], dwellMs: number, bench: JointBench): SweepRun {
  const { joint, maker } = bench;
  const { axis } = joint;
  if (axis.kind !== "angle") throw new Error("A sweep needs a joint with angles.");
  const servo = new SimServo(sheetTruth(bench, servoDegOf(axis, swept[0]?.madeDeg ?? 0)));
  const totalMs = swept.length * dwellMs;
  const frameMs = maker.periodUs / 1000;
  // Several samples to every dwell and every frame, so that each step and the way the servo follows it can be seen.
  const stepMs = Math.max(Math.min(frameMs, dwellMs) / 5, totalMs / mostSamples);
  const samples = Math.ceil(totalMs / stepMs) + 1;
  const positionAt = (ms: number) =>
    swept[Math.min(Math.floor(ms / dwellMs + 1e-9), swept.length - 1)] as SweptPosition;
  const askedDeg = new Float64Array(samples);
  const actualDeg = new Float64Array(samples);
  let largestLagDeg = 0;
  for (let at = 0; at < samples; at += 1) {
    const nowMs = at * stepMs;
    // A new pulse leaves only at the start of a frame: what is asked in between is never sent.
    const sent = positionAt(Math.floor(nowMs / frameMs + 1e-9) * frameMs);
    servo.step(at === 0 ? 0 : stepMs, servoDegOf(axis, sent.madeDeg));
    const asked = positionAt(nowMs);
    const seenDeg = jointDegOf(axis, servo.angleDeg);
    askedDeg[at] = asked.madeDeg;
    actualDeg[at] = seenDeg;
    const isDwellOver = positionAt(nowMs + stepMs) !== asked;
    if (isDwellOver) largestLagDeg = Math.max(largestLagDeg, Math.abs(asked.madeDeg - seenDeg));
  }
  const endErrorDeg = Math.abs((askedDeg.at(-1) ?? 0) - (actualDeg.at(-1) ?? 0));
  return { stepMs, askedDeg, actualDeg, largestLagDeg, endErrorDeg };
}

/**
 * A servo exactly as its card has it, standing at one of its own angles. It is told angles instead of set points (one per
 * degree), since what the board makes has already been turned into angles through the card's curve, straight or not.
 */
function sheetTruth(bench: JointBench, startDeg: number): ServoTruth {
  const { card } = bench;
  return {
    ...faultlessTruth,
    cardId: card.id,
    centre: 0,
    midDeg: 0,
    perDeg: 1,
    stopLowDeg: Number.NEGATIVE_INFINITY,
    stopHighDeg: Number.POSITIVE_INFINITY,
    deadband: card.deadband * degPerSetPoint(bench),
    speedDegPerS: ratedSpeedDegPerS(card),
    startDeg,
  };
}
