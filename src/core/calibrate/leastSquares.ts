/** A fit by least squares, and how far each of its numbers may be off. */
export interface Fitted {
  readonly values: readonly number[];
  /** Of each value: the true one lies within this either way in 95 of 100 cases. */
  readonly plusMinus: readonly number[];
  /** Covariance of two of the values. */
  covariance(a: number, b: number): number;
  /** What was measured less what the fit says. */
  readonly residuals: readonly number[];
  /** The spread of one measurement, as residuals and what was known beforehand say together. */
  readonly spread: number;
  /** By how many spreads is 95 of 100. */
  readonly reach: number;
}

/** What is known of the spread of a reading before any is compared weighs as much as so many readings. */
const weightOfKnown = 4;

/**
 * The numbers θ with rows·θ nearest to what was measured, by the normal equations. With few readings their own scatter says little: it
 * is weighed with what is known of a reading's spread beforehand. Null where the rows do not tell the numbers apart.
 */
export function leastSquares(
  rows: readonly (readonly number[])[],
  measured: readonly number[],
  knownSpread: number,
): Fitted | null {
  const width = rows[0]?.length ?? 0;
  const inverse = inverted(
    Array.from({ length: width }, (_, a) =>
      Array.from({ length: width }, (_, b) => sum(rows.map((row) => (row[a] as number) * (row[b] as number)))),
    ),
  );
  if (!inverse || rows.length < width) return null;
  const right = Array.from({ length: width }, (_, a) =>
    sum(rows.map((row, at) => (row[a] as number) * (measured[at] as number))),
  );
  const values = inverse.map((line) => sum(line.map((value, at) => value * (right[at] as number))));
  const residuals = rows.map((row, at) => (measured[at] as number) - sum(row.map((x, a) => x * (values[a] as number))));
  const freedom = rows.length - width + weightOfKnown;
  const variance = (sum(residuals.map((one) => one * one)) + weightOfKnown * knownSpread ** 2) / freedom;
  const reach = reach95(freedom);
  return {
    values,
    plusMinus: inverse.map((line, at) => reach * Math.sqrt(variance * (line[at] as number))),
    covariance: (a, b) => variance * ((inverse[a] as number[])[b] as number),
    residuals,
    spread: Math.sqrt(variance),
    reach,
  };
}

const sum = (values: readonly number[]) => values.reduce((total, value) => total + value, 0);

/** Student's t for 95 of 100 on both sides, by the expansion of Cornish and Fisher; good to 2 % from 4 degrees of freedom on. */
function reach95(freedom: number): number {
  const z = 1.959964;
  return z + (z ** 3 + z) / (4 * freedom) + (5 * z ** 5 + 16 * z ** 3 + 3 * z) / (96 * freedom ** 2);
}

/** The inverse of a small symmetric matrix, by Gauss and Jordan with pivots; null for one that has none. */
function inverted(matrix: readonly (readonly number[])[]): number[][] | null {
  const size = matrix.length;
  const work = matrix.map((line, at) => [...line, ...Array.from({ length: size }, (_, b) => (b === at ? 1 : 0))]);
  const scale = Math.max(...matrix.flat().map(Math.abs), 1e-300);
  for (let column = 0; column < size; column += 1) {
    let pivot = column;
    for (let row = column + 1; row < size; row += 1)
      if (Math.abs(work[row]?.[column] ?? 0) > Math.abs(work[pivot]?.[column] ?? 0)) pivot = row;
    const top = work[pivot] as number[];
    const by = top[column] as number;
    if (Math.abs(by) < 1e-9 * scale) return null;
    work[pivot] = work[column] as number[];
    work[column] = top.map((value) => value / by);
    for (let row = 0; row < size; row += 1) {
      const factor = row === column ? 0 : (work[row]?.[column] as number);
      if (factor !== 0)
        work[row] = (work[row] as number[]).map((value, at) => value - factor * (work[column]?.[at] as number));
    }
  }
  return work.map((line) => line.slice(size));
}
