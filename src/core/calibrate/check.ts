import { type Curve, toAngleDeg } from "./curve";
import { rms } from "./fit";

/** One stop of a checking run: first to where it is come from, then to the angle that is to be read. */
export interface CheckStep {
  readonly targetDeg: number;
  readonly approachDeg: number;
  readonly cameFrom: "below" | "above";
}

/** Room left at both ends, so that each angle can be come to from beyond it. */
const marginShare = 0.06;

/**
 * The angles of a checking run, in the order in which they are visited: all of them upward, then all of them back down. So each is come
 * to from both sides, and only the first and the turning point need a run-up of their own. Degrees of the joint.
 */
export function checkSteps(lowDeg: number, highDeg: number, count = 5): readonly CheckStep[] {
  const margin = marginShare * (highDeg - lowDeg);
  const [from, to] = [lowDeg + margin, highDeg - margin];
  const angles = Array.from({ length: count }, (_, at) => from + ((to - from) * at) / (count - 1));
  const upward = angles.map(
    (targetDeg, at): CheckStep => ({ targetDeg, approachDeg: angles[at - 1] ?? lowDeg, cameFrom: "below" }),
  );
  const downward = angles
    .map((targetDeg, at): CheckStep => ({ targetDeg, approachDeg: angles[at + 1] ?? highDeg, cameFrom: "above" }))
    .toReversed();
  return [...upward, ...downward];
}

/** What was read at one set point of a checking run. */
export interface CheckRead {
  readonly setPoint: number;
  readonly cameFrom: "below" | "above";
  readonly seenDeg: number;
}

export interface CheckReport {
  /** For each reading, what the curve says less what was seen. */
  readonly errorsDeg: readonly number[];
  /** Mean and largest of the sizes of the errors. */
  readonly meanDeg: number;
  readonly largestDeg: number;
  /** The mean error with its sign: what turning the horn, or a trim, would take away. */
  readonly biasDeg: number;
  /** How much less was seen coming from below than from above, on average; null without readings from both sides. */
  readonly backlashDeg: number | null;
}

/** Set points closer than this are the same place, come to from two sides. Boards round the same way each time. */
const samePlace = 0.51;

/** Holds a curve against readings. Any curve: the one in force, or an earlier one for comparison. */
export function reportCheck(curve: Curve, readings: readonly CheckRead[]): CheckReport {
  const errorsDeg = readings.map((one) => toAngleDeg(curve, one.setPoint) - one.seenDeg);
  const sizes = errorsDeg.map(Math.abs);
  const gaps = readings.flatMap((below) =>
    below.cameFrom === "below"
      ? readings
          .filter((above) => above.cameFrom === "above" && Math.abs(above.setPoint - below.setPoint) < samePlace)
          .slice(0, 1)
          .map((above) => above.seenDeg - below.seenDeg)
      : [],
  );
  return {
    errorsDeg,
    meanDeg: mean(sizes),
    largestDeg: Math.max(0, ...sizes),
    biasDeg: mean(errorsDeg),
    backlashDeg: gaps.length > 0 ? mean(gaps) : null,
  };
}

/** What a protractor can tell; an error or a play below it is reading. */
const readableDeg = 0.5;

/** What to do about a check, in a sentence. */
export function adviseCheck(report: CheckReport): string {
  const { meanDeg, largestDeg, biasDeg, backlashDeg, errorsDeg } = report;
  const unbiased = rms(errorsDeg.map((error) => error - biasDeg));
  if (largestDeg <= 1) return "True to a degree everywhere: accept it.";
  if (backlashDeg !== null && Math.abs(backlashDeg) > 2 * readableDeg && Math.abs(backlashDeg) / 2 > 0.6 * meanDeg)
    return `Mostly play in the gears, ${Math.abs(backlashDeg).toFixed(1)}°: no curve mends that. Come to a place from the same side each time.`;
  if (Math.abs(biasDeg) > readableDeg && unbiased < readableDeg)
    return `It is off by the same ${Math.abs(biasDeg).toFixed(1)}° everywhere, as when a horn has slipped: add these as points, or redo.`;
  return "The curve does not fit what was seen: add these readings as points, or redo.";
}

const mean = (values: readonly number[]) => values.reduce((sum, value) => sum + value, 0) / Math.max(values.length, 1);
