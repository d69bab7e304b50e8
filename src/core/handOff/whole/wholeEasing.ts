import { type Easing, easedBy, formulaOf } from "@core/easings";
import { down, scaled, shareBits } from "./scale";

/** From a share of the time on, a polynomial of the share of this piece that is over: six coefficients, the constant first. All in `shareBits`. */
export interface WholePiece {
  readonly from: number;
  readonly width: number;
  readonly coefficients: readonly number[];
}

export interface WholeEasing {
  readonly pieces: readonly WholePiece[];
  /** How far it is off its curve at most, as a share of the way, where it was looked at. */
  readonly error: number;
}

/** The fifth degree is the highest that an easing has. */
const degree = 5;
const looks = 4000;

/** An easing as polynomials in whole numbers, piece by piece: each goes through six of its points, and is so the very curve. */
export function wholeEasing(easing: Easing): WholeEasing {
  const curve = easedBy(easing);
  const ends = [0, ...formulaOf(easing).flatMap(({ until }) => (until === null ? [] : [until])), 1];
  const pieces = ends.slice(0, -1).map((from, at) => {
    const width = (ends[at + 1] as number) - from;
    // Its last point belongs to the next piece.
    const values = Array.from({ length: degree + 1 }, (_, step) =>
      curve(from + width * Math.min(step / degree, 1 - 1e-12)),
    );
    return {
      from: scaled(from, shareBits),
      width: scaled(from + width, shareBits) - scaled(from, shareBits),
      coefficients: polynomialThrough(values).map((one) => scaled(one, shareBits)),
    };
  });
  let error = 0;
  for (let look = 0; look < looks; look += 1) {
    const share = scaled(look / looks, shareBits);
    error = Math.max(error, Math.abs(easeWhole(pieces, share) / 2 ** shareBits - curve(share / 2 ** shareBits)));
  }
  return { pieces, error };
}

/** The eased share of a share; written as the code is. */
export function easeWhole(pieces: readonly WholePiece[], share: number): number {
  let at = 0;
  while (at + 1 < pieces.length && (pieces[at + 1] as WholePiece).from <= share) at += 1;
  const { from, width, coefficients } = pieces[at] as WholePiece;
  const over = Math.floor(((share - from) * 2 ** shareBits) / width);
  let sum = 0;
  for (let power = degree; power >= 0; power -= 1) sum = down(sum * over, shareBits) + (coefficients[power] as number);
  return sum;
}

/** The coefficients, the constant first, of the polynomial through values that are evenly apart from 0 to 1 (Newton's form, multiplied out). */
function polynomialThrough(values: readonly number[]): readonly number[] {
  const last = values.length - 1;
  const differences = [...values];
  for (let order = 1; order <= last; order += 1)
    for (let at = last; at >= order; at -= 1)
      differences[at] = (((differences[at] as number) - (differences[at - 1] as number)) * last) / order;
  let sum: number[] = [differences[last] as number];
  for (let order = last - 1; order >= 0; order -= 1) {
    const node = order / last;
    const raised = [0, ...sum];
    sum = raised.map((one, power) => one - node * (sum[power] ?? 0));
    sum[0] = (sum[0] as number) + (differences[order] as number);
  }
  return sum;
}
