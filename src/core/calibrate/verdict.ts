import { type Cause, type CauseShare, type Diagnosis, diagnose } from "./causes";
import { type CheckRead, canJudge } from "./check";
import { type Curve, toAngleDeg } from "./curve";
import type { MeasuredPoint } from "./line";
import { lineError } from "./uncertainty";

/** What mends what a check has found. */
export type CheckMend =
  /** Nothing has to be mended. */
  | { readonly kind: "accept" }
  /** The curve stays as it is; all its angles are shifted by so much. Never laid anew: it is the horn that moved. */
  | { readonly kind: "shift"; readonly byDeg: number }
  /** The curve is laid anew, through what was read here. */
  | { readonly kind: "refit" }
  /** One reading is taken again. */
  | { readonly kind: "again"; readonly reading: number }
  /** Other readings are needed, so many angles of them. */
  | { readonly kind: "more"; readonly angles: number }
  /** No curve mends that: it lies in the servo. */
  | { readonly kind: "live" };

export interface CheckVerdict {
  readonly diagnosis: Diagnosis | null;
  /** The causes that are named. */
  readonly causes: readonly Cause[];
  readonly sentences: readonly string[];
  readonly mend: CheckMend;
}

/** True to within this everywhere is true. */
const trueDeg = 1;
const order: readonly Cause[] = ["offset", "slope", "bend", "play"];

/**
 * What a check says, and what to do. A cause is named only where it is told apart from the others; else it is said what would decide.
 * @param laidThrough the points of the curve that is judged; empty for a data sheet's
 * @param splineTeeth of the servo's shaft: in how many places its horn can be put
 */
export function judgeCheck(
  curve: Curve,
  readings: readonly CheckRead[],
  laidThrough: readonly MeasuredPoint[],
  splineTeeth: number,
): CheckVerdict {
  const diagnosis = diagnose(curve, readings);
  const say = (mend: CheckMend, causes: readonly Cause[], ...sentences: string[]): CheckVerdict => ({
    diagnosis,
    causes,
    sentences,
    mend,
  });
  if (!diagnosis)
    return say({ kind: "more", angles: 5 }, [], "These readings are too few to say anything. Check more angles.");
  const { shares, odd, worstDeg } = diagnosis;
  const there = order.filter((cause) => shares[cause]?.verdict === "there");
  const open = order.filter((cause) => shares[cause]?.verdict === "open");
  if (odd !== null)
    return say(
      { kind: "again", reading: odd },
      [],
      `Reading ${odd + 1} does not go with the others, which agree among themselves. Take it again before anything is changed.`,
    );
  if (there.length === 0 && open.length === 0) {
    if (!canJudge(readings, laidThrough))
      return say(
        { kind: "more", angles: readings.length / 2 + 1 },
        [],
        "These are the very angles that the curve was laid through: there it is always true. Check other angles.",
      );
    return say(
      { kind: "accept" },
      [],
      `${worstDeg <= trueDeg ? "True to a degree" : `True to ${worstDeg.toFixed(1)}°`} everywhere: accept it.`,
    );
  }
  const told = toldBy(curve, readings, laidThrough);
  const sentences = there.map((cause) => sentenceOf(cause, shares[cause] as CauseShare, told, splineTeeth));
  if (there.length === 0)
    return say({ kind: "more", angles: moreAngles(readings, shares, open) }, [], openSentence(readings, shares, open));
  if (shares.play === null)
    return say(
      { kind: "more", angles: Math.max(5, readings.length) },
      [],
      "All readings came from one side: an offset and play in the gears look alike from there. Read it from the other side too.",
    );
  if (open.length > 0) sentences.push(`Whether there is ${listOf(open)} besides, these readings do not tell.`);
  return say(mendFor(there, shares), there, ...sentences);
}

function mendFor(there: readonly Cause[], shares: Diagnosis["shares"]): CheckMend {
  if (there.includes("slope") || there.includes("bend")) return { kind: "refit" };
  if (there.includes("offset")) return { kind: "shift", byDeg: shares.offset?.deg ?? 0 };
  return { kind: "live" };
}

const withError = ({ deg, plusMinusDeg }: CauseShare) => `${Math.abs(deg).toFixed(1)}° ± ${plusMinusDeg.toFixed(1)}°`;

function sentenceOf(cause: Cause, share: CauseShare, told: Told, splineTeeth: number): string {
  switch (cause) {
    case "offset":
      return `The horn stands ${withError(share)} toward ${share.deg > 0 ? "larger" : "smaller"} angles everywhere, as when it has slipped on its shaft: ${teethWords(share.deg, splineTeeth)}`;
    case "slope":
      return `From the middle to either end it turns ${withError(share)} ${share.deg > 0 ? "further" : "less far"} than its curve says: ${scaleWords(share, told)}`;
    case "bend":
      return `It bends by ${withError(share)} where its curve does not.`;
    case "play":
      return `There is play in the gears, ${withError(share)}: no curve mends that. Come to a place from the same side each time.`;
  }
}

/** What the points of a curve could tell of its scale: from the middle of the readings to their ends, in degrees. */
interface Told {
  readonly points: number;
  readonly endDeg: number;
}

function toldBy(curve: Curve, readings: readonly CheckRead[], laidThrough: readonly MeasuredPoint[]): Told {
  const saysDeg = readings.map(({ setPoint }) => toAngleDeg(curve, setPoint));
  const halfDeg = (Math.max(...saysDeg) - Math.min(...saysDeg)) / 2;
  const share = (lineError(laidThrough)?.slopePerDeg ?? 0) / Math.abs(curve.slopePerDeg);
  return { points: laidThrough.length, endDeg: share * halfDeg };
}

/** A scale that is off by no more than its points could tell is nothing new; one that is off by more has changed, or was measured wrongly. */
const scaleWords = ({ deg }: CauseShare, { points, endDeg }: Told) =>
  Math.abs(deg) <= endDeg
    ? `its ${points} points could not tell it closer than ± ${endDeg.toFixed(1)}°.`
    : "a degree is not as wide as it was measured.";

/** Whether turning the horn on its spline mends it, and which way; what is less than half a tooth is left to an offset. */
function teethWords(deg: number, splineTeeth: number): string {
  const toothDeg = 360 / splineTeeth;
  const teeth = Math.round(Math.abs(deg) / toothDeg);
  const restDeg = Math.abs(Math.abs(deg) - teeth * toothDeg);
  if (teeth === 0) return `less than half a tooth of ${toothDeg.toFixed(1)}°, so shift its angles by as much.`;
  const put = `put it back by ${teeth} ${teeth === 1 ? "tooth" : "teeth"} of ${toothDeg.toFixed(1)}° toward ${deg > 0 ? "smaller" : "larger"} angles`;
  return restDeg < trueDeg / 2
    ? `${put}, or shift its angles by as much.`
    : `${put}, which leaves ${restDeg.toFixed(1)}°, or shift its angles by all of it.`;
}

const causeWords: Record<Cause, string> = {
  offset: "a slipped horn",
  slope: "a wrong scale",
  bend: "a bend",
  play: "play in the gears",
};

function listOf(causes: readonly Cause[]): string {
  const words = causes.map((cause) => causeWords[cause]);
  return words.length === 1 ? (words[0] ?? "") : `${words.slice(0, -1).join(", ")} or ${words.at(-1)}`;
}

function openSentence(readings: readonly CheckRead[], shares: Diagnosis["shares"], open: readonly Cause[]): string {
  const parts = open.map((cause) => `${causeWords[cause]} ${withError(shares[cause] as CauseShare)}`).join(", ");
  return `It may be ${listOf(open)}, and these readings do not tell (${parts}). ${moreAngles(readings, shares, open)} angles from both sides would decide.`;
}

/** How many angles would tell: a ± shrinks with the root of the readings. */
function moreAngles(readings: readonly CheckRead[], shares: Diagnosis["shares"], open: readonly Cause[]): number {
  const factors = open.map((cause) => {
    const { deg, plusMinusDeg } = shares[cause] as CauseShare;
    const neededDeg = Math.max(Math.abs(deg) / 1.5, noneShareDeg);
    return (plusMinusDeg / neededDeg) ** 2;
  });
  const angles = (readings.length / 2) * Math.max(1.4, ...factors);
  return Math.min(20, Math.ceil(angles));
}
const noneShareDeg = 0.6;
