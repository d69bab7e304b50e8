import type { Curve } from "@core/calibrate";
import type { SignalMaker } from "@core/encodings";
import { figure } from "@core/numbers";

/** A curve as a program without floating point would have it, and what that costs. */
export interface IntegerForm {
  readonly line: string;
  /** The most that it is off the exact number, rounding included, over the whole travel: in the board's numbers, and in set points. */
  readonly worstCounts: number;
  readonly worstSetPoints: number;
}

export interface Equations {
  /** Slope and intercept over the servo's own angle in degrees, in each unit that a person's own program may use. */
  readonly lines: readonly string[];
  readonly integer: IntegerForm | null;
}

const n = figure;
const plus = (value: number, decimals: number) => `${value < 0 ? "−" : "+"} ${n(Math.abs(value), decimals)}`;

/** What a board loads for an angle, by the very numbers with which it makes its signal: polarity and offset are in them. */
const countLine = ({ slopePerDeg, intercept }: Curve, { gain, offset }: SignalMaker) => ({
  perDeg: slopePerDeg / gain,
  atZero: (intercept - offset) / gain,
});

/**
 * The straight line of a curve as equations. Where the frame changes with the pulse, duty is no straight line of the angle, and is said so.
 * @param travelDeg over which the whole-number form is held against the exact one, from 0
 */
export function equationsFor(curve: Curve, maker: SignalMaker, travelDeg: number): Equations {
  if (maker.countName === "tick")
    return {
      lines: [lineOf("tick", curve.slopePerDeg, curve.intercept, 4)],
      integer: integerForm(curve, maker, travelDeg),
    };
  const { slopePerDeg, intercept } = curve;
  const lines = [
    lineOf("pulse µs", slopePerDeg, intercept, 4),
    lineOf("pulse ms", slopePerDeg / 1000, intercept / 1000, 6),
  ];
  const gapUs = maker.periodUsAt(1000) - 1000;
  const isFixedFrame = maker.periodUsAt(1000) === maker.periodUsAt(2000);
  if (isFixedFrame)
    lines.push(
      lineOf("duty %", (100 * slopePerDeg) / maker.periodUs, (100 * intercept) / maker.periodUs, 5),
      lineOf("duty 0…1", slopePerDeg / maker.periodUs, intercept / maker.periodUs, 7),
    );
  else lines.push(`duty % = 100 × pulse / (pulse + ${n(gapUs)}): the frame changes with the pulse`);
  if (maker.countName === "count" || maker.countName === "compare") {
    const { perDeg, atZero } = countLine(curve, maker);
    lines.push(lineOf(maker.countName, perDeg, atZero, 4));
  }
  return { lines, integer: integerForm(curve, maker, travelDeg) };
}

const lineOf = (name: string, perDeg: number, atZero: number, decimals: number) =>
  `${name} = ${n(perDeg, decimals + 2)} × angle ${plus(atZero, decimals)}`;

/** A product must stay within 31 bits, so that any processor of 32 bits can hold it. */
const largestWord = 2 ** 31;
const mostShift = 20;

/** `(a × tenths + b) >> s`, with the angle in tenths of a degree: the finest that fits a word of 32 bits. Null where none does. */
function integerForm(curve: Curve, maker: SignalMaker, travelDeg: number): IntegerForm | null {
  const { perDeg, atZero } = countLine(curve, maker);
  const tenths = Math.ceil(travelDeg * 10);
  for (let shift = mostShift; shift >= 0; shift -= 1) {
    const scale = 2 ** shift;
    const a = Math.round((perDeg / 10) * scale);
    // Half a count is added, so that what is cut off is rounded.
    const b = Math.round(atZero * scale + scale / 2);
    if (Math.abs(a) * tenths + Math.abs(b) >= largestWord) continue;
    let worst = 0;
    for (let x = 0; x <= tenths; x += 1)
      worst = Math.max(worst, Math.abs(Math.floor((a * x + b) / scale) - ((perDeg * x) / 10 + atZero)));
    return {
      line: `${maker.countName === "%" ? "steps" : maker.countName} = (${a} × tenths ${plus(b, 0)}) >> ${shift}`,
      worstCounts: worst,
      worstSetPoints: worst * maker.step,
    };
  }
  return null;
}
