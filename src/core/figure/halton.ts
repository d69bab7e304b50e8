const primes = [2, 3, 5, 7, 11, 13, 17, 19, 23, 29] as const;

/** A number between 0 and 1 of a sequence that is spread evenly, one sequence for each dimension: the digits of `index` mirrored at the point (Halton). */
export function halton(index: number, dimension: number): number {
  const base = primes[dimension % primes.length] as number;
  let [left, share, value] = [index, 1 / base, 0];
  while (left > 0) {
    value += (left % base) * share;
    left = Math.floor(left / base);
    share /= base;
  }
  return value;
}
