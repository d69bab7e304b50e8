import { type Curve, toAngleDeg } from "./curve";
import type { MeasuredPoint } from "./line";

/** One stop of a checking run: first to where it is come from, then to the angle that is to be read. */
export interface CheckStep {
  readonly targetDeg: number;
  readonly approachDeg: number;
  readonly cameFrom: "below" | "above";
}

/** Room left at both ends, so that each angle can be come to from beyond it. */
const marginShare = 0.06;
/** Nearer than this to an angle that the curve was laid through, a reading tells nothing new of the curve. */
const knownWithinDeg = 1.5;

/**
 * The angles of a checking run, in the order in which they are visited: all of them upward, then all of them back down. So each is come
 * to from both sides, and only the first and the turning point need a run-up of their own. Degrees of the joint.
 * @param knownDeg the angles that the curve was laid through: they are avoided, since there it is always true
 */
export function checkSteps(
  lowDeg: number,
  highDeg: number,
  count = 5,
  knownDeg: readonly number[] = [],
): readonly CheckStep[] {
  const margin = marginShare * (highDeg - lowDeg);
  const angles = farthest(lowDeg + margin, highDeg - margin, count, knownDeg);
  const upward = angles.map(
    (targetDeg, at): CheckStep => ({ targetDeg, approachDeg: angles[at - 1] ?? lowDeg, cameFrom: "below" }),
  );
  const downward = angles
    .map((targetDeg, at): CheckStep => ({ targetDeg, approachDeg: angles[at + 1] ?? highDeg, cameFrom: "above" }))
    .toReversed();
  return [...upward, ...downward];
}

/** So many angles from end to end; drawn in from either end by as much as brings them farthest from those that are known. */
function farthest(from: number, to: number, count: number, knownDeg: readonly number[]): readonly number[] {
  const spacing = (to - from) / (count - 1);
  const rows = knownDeg.length === 0 ? [[0, 0]] : shares.flatMap((low) => shares.map((high) => [low, high]));
  const candidates = rows.map(([low = 0, high = 0]) => {
    const [first, last] = [from + low * spacing, to - high * spacing];
    const angles = Array.from({ length: count }, (_, at) => first + ((last - first) * at) / (count - 1));
    const near = angles.map((deg) => Math.min(Number.POSITIVE_INFINITY, ...knownDeg.map((one) => Math.abs(one - deg))));
    // Far enough is far enough: then the widest row is the best.
    return { angles, nearestDeg: Math.min(2 * knownWithinDeg, ...near), width: last - first };
  });
  candidates.sort((a, b) => b.nearestDeg - a.nearestDeg || b.width - a.width);
  return candidates[0]?.angles ?? [];
}
const shares = [0, 0.1, 0.2, 0.3, 0.4];

/** What was read at one set point of a checking run. */
export interface CheckRead {
  readonly setPoint: number;
  /** From which side the horn came, in the servo's own degrees. */
  readonly cameFrom: "below" | "above";
  readonly seenDeg: number;
}

export interface CheckReport {
  /** For each reading, what was seen less what the curve says. */
  readonly errorsDeg: readonly number[];
  /** Mean and largest of the sizes of the errors. */
  readonly meanDeg: number;
  readonly largestDeg: number;
}

/** Holds a curve against readings. Any curve: the one in force, or an earlier one for comparison. */
export function reportCheck(curve: Curve, readings: readonly CheckRead[]): CheckReport {
  const errorsDeg = readings.map((one) => one.seenDeg - toAngleDeg(curve, one.setPoint));
  const sizes = errorsDeg.map(Math.abs);
  const meanDeg = sizes.reduce((sum, size) => sum + size, 0) / Math.max(sizes.length, 1);
  return { errorsDeg, meanDeg, largestDeg: Math.max(0, ...sizes) };
}

/** Whether some reading stands where the curve was not laid through a point: elsewhere it is true by itself. */
export const canJudge = (readings: readonly CheckRead[], laidThrough: readonly MeasuredPoint[]): boolean =>
  readings.some(({ seenDeg }) => laidThrough.every(({ angleDeg }) => Math.abs(angleDeg - seenDeg) > knownWithinDeg));

/** Set points closer than this are the same place, come to from two sides. Boards round the same way each time. */
const samePlace = 0.51;

/** The readings as points for a new curve: of each place the middle of what was seen from either side, so that play does not bend it. */
export function pointsOf(readings: readonly CheckRead[]): readonly MeasuredPoint[] {
  const places: { setPoint: number; below: number[]; above: number[] }[] = [];
  for (const { setPoint, cameFrom, seenDeg } of readings) {
    let place = places.find((one) => Math.abs(one.setPoint - setPoint) < samePlace);
    if (!place) {
      place = { setPoint, below: [], above: [] };
      places.push(place);
    }
    place[cameFrom].push(seenDeg);
  }
  const mean = (values: readonly number[]) => values.reduce((sum, value) => sum + value, 0) / values.length;
  return places.map(({ setPoint, below, above }) => {
    const sides = [below, above].filter((side) => side.length > 0);
    return { setPoint, angleDeg: mean(sides.map(mean)) };
  });
}
