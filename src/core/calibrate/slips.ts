import { toAngleDeg } from "./curve";
import { bestLine, type MeasuredPoint } from "./line";

/** A measured point that does not look right, and what it may have been. */
export interface Slip {
  readonly index: number;
  readonly says: string;
  /** All the others agree against it. Else it is only the one to take again, so that it shows which is wrong. */
  readonly isSure: boolean;
}

/** Off by less than this a point may still be reading, play or bend. */
const leastSlipDeg = 6;
/** The rest must agree this much better among themselves than the accused does with them; */
const sureBy = 5;
/** they are never asked to agree better than a protractor is read; */
const readableDeg = 0.7;
/** and no other choice of the accused may leave a rest that agrees nearly as well. */
const rivalBy = 3;
/** More than this off a straight line is no bend of a servo any more. */
const largestHonestDeg = 8;

/**
 * The points that do not go with the others. Only those are accused against which all the rest, at least three, agree; up to two at once.
 * Where the points contradict each other and do not say which is wrong, one of them is asked for again. Two points can contradict nothing.
 * @param travelDeg of the servo: from the other end of a protractor that lies over it, an angle reads as the travel less itself
 */
export function findSlips(points: readonly MeasuredPoint[], travelDeg = 180): readonly Slip[] {
  if (points.length < 3) return [];
  const accused = theAccused(points, 1) ?? theAccused(points, 2);
  if (accused) {
    const slips = accused.map(({ index, expectedDeg }) => ({
      index,
      says: sentenceOf(points[index] as MeasuredPoint, expectedDeg, travelDeg),
      isSure: true,
    }));
    if (accused.length > 1) return slips;
    // A small slip is seen only once the large one is out of the way.
    const others = points.flatMap((_, at) => (at === accused[0]?.index ? [] : [at]));
    const more = findSlips(
      others.map((at) => points[at] as MeasuredPoint),
      travelDeg,
    );
    return [...slips, ...more.map((slip) => ({ ...slip, index: others[slip.index] as number }))];
  }
  const worst = contradiction(points);
  if (worst === null) return [];
  return [
    {
      index: worst,
      says: "These points contradict each other, and do not say which of them is wrong. Take this one again: then it shows.",
      isSure: false,
    },
  ];
}

interface Accused {
  readonly index: number;
  readonly expectedDeg: number;
}

/** So many points against which all others agree, if there is one such choice and no rival to it. */
function theAccused(points: readonly MeasuredPoint[], count: number): readonly Accused[] | null {
  if (points.length - count < 3) return null;
  const trials = choices(points.length, count).flatMap((indexes) => {
    const rest = points.filter((_, at) => !indexes.includes(at));
    const line = bestLine(rest);
    if (!line.ok) return [];
    const offDeg = (point: MeasuredPoint) => Math.abs(toAngleDeg(line.value, point.setPoint) - point.angleDeg);
    const accused = indexes.map((index) => ({
      index,
      offDeg: offDeg(points[index] as MeasuredPoint),
      expectedDeg: toAngleDeg(line.value, (points[index] as MeasuredPoint).setPoint),
    }));
    return [{ accused, quarrelDeg: Math.max(readableDeg, ...rest.map(offDeg)) }];
  });
  trials.sort((a, b) => a.quarrelDeg - b.quarrelDeg);
  const [best, rival] = trials;
  if (!best || (rival && rival.quarrelDeg < rivalBy * best.quarrelDeg)) return null;
  const isFar = best.accused.every(({ offDeg }) => offDeg > leastSlipDeg && offDeg > sureBy * best.quarrelDeg);
  return isFar ? best.accused : null;
}

const choices = (length: number, count: number): readonly (readonly number[])[] => {
  const singles = Array.from({ length }, (_, at) => [at]);
  return count === 1
    ? singles
    : singles.flatMap(([a = 0]) => Array.from({ length: length - a - 1 }, (_, at) => [a, a + 1 + at]));
};

/** The point that lies furthest off the line through all, where they break their order or lie too far apart for any servo; null where they do not. */
function contradiction(points: readonly MeasuredPoint[]): number | null {
  const line = bestLine(points);
  if (!line.ok) return null;
  const offDeg = points.map((point) => Math.abs(toAngleDeg(line.value, point.setPoint) - point.angleDeg));
  const bySetPoint = points.toSorted((a, b) => a.setPoint - b.setPoint);
  const way = Math.sign(line.value.slopePerDeg);
  const turnsBack = bySetPoint.some((point, at) => {
    const before = bySetPoint[at - 1];
    return before !== undefined && way * (point.angleDeg - before.angleDeg) < -leastSlipDeg / 2;
  });
  const most = Math.max(...offDeg);
  return turnsBack || most > largestHonestDeg ? offDeg.indexOf(most) : null;
}

/** Near enough to be what was meant. */
const meantDeg = 2.5;

function sentenceOf(point: MeasuredPoint, expectedDeg: number, travelDeg: number): string {
  const { angleDeg } = point;
  const begin = `${angleDeg}° does not go with the others, which ask for about ${expectedDeg.toFixed(0)}°`;
  const isMeant = (deg: number) => Math.abs(deg - expectedDeg) < meantDeg;
  if (angleDeg !== 0 && isMeant(-angleDeg)) return `${begin}: was it ${-angleDeg}°?`;
  for (const other of new Set([travelDeg - angleDeg, 180 - angleDeg]))
    if (isMeant(other)) return `${begin}: read from the other end, ${other}°?`;
  for (const tens of [10, -10, 20, -20, 100, -100])
    if (isMeant(angleDeg + tens)) return `${begin}: was it ${angleDeg + tens}°?`;
  return `${begin}. Measure it again.`;
}
