import { toAngleDeg } from "./curve";
import { bestLine, type MeasuredPoint } from "./line";

/** A measured point that does not look right, and what it may have been. */
export interface Slip {
  readonly index: number;
  readonly says: string;
}

/** Less than this may be reading, backlash or bend; more is a slip. In degrees. */
const largestHonestDeg = 8;

/**
 * The points that do not go with the others: they break the order, or lie far off the line through the rest. Where the other sign,
 * or a whole ten, would fit, that is said. Needs at least three points: of two, neither can be called wrong.
 */
export function findSlips(points: readonly MeasuredPoint[]): readonly Slip[] {
  if (points.length < 3) return [];
  const slips = points.flatMap((point, index): (Slip & { offDeg: number })[] => {
    const others = points.filter((_, at) => at !== index);
    const line = bestLine(others);
    if (!line.ok) return [];
    const expectedDeg = toAngleDeg(line.value, point.setPoint);
    const offDeg = Math.abs(expectedDeg - point.angleDeg);
    // The others must agree among themselves before one of them can accuse a point.
    const quarrelDeg = Math.max(
      ...others.map((other) => Math.abs(toAngleDeg(line.value, other.setPoint) - other.angleDeg)),
    );
    if (offDeg <= largestHonestDeg || (others.length > 2 && offDeg < 2 * quarrelDeg)) return [];
    return [{ index, offDeg, says: sentenceOf(point, expectedDeg) }];
  });
  // With three points each may accuse the others; the one that is furthest off is meant.
  const worst = slips.toSorted((a, b) => b.offDeg - a.offDeg);
  return (points.length === 3 ? worst.slice(0, 1) : worst).map(({ index, says }) => ({ index, says }));
}

function sentenceOf(point: MeasuredPoint, expectedDeg: number): string {
  const seen = `${point.angleDeg}°`;
  const about = `about ${expectedDeg.toFixed(0)}°`;
  if (Math.abs(-point.angleDeg - expectedDeg) < largestHonestDeg && point.angleDeg !== 0)
    return `${seen} does not go with the others, which ask for ${about}: was it ${-point.angleDeg}°?`;
  const turned = 180 - point.angleDeg;
  if (Math.abs(turned - expectedDeg) < largestHonestDeg)
    return `${seen} does not go with the others, which ask for ${about}: read from the other end, ${turned}°?`;
  return `${seen} does not go with the others, which ask for ${about}. Measure it again.`;
}
