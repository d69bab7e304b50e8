/**
 * Slopes of a smooth curve through points that never swings past them: the three-point formula of Fritsch and Butland (1984), the harmonic
 * mean of the neighbouring chords, weighted by their widths; 0 at a peak and at a flat. At the ends the curve follows its chord.
 * Takes ascending `xs` and as many `ys`; gives one slope a point, in y per x.
 */
export function monotoneSlopes(xs: ArrayLike<number>, ys: ArrayLike<number>): Float64Array {
  const slopes = new Float64Array(xs.length);
  const last = xs.length - 1;
  if (last < 1) return slopes;
  const chord = (at: number) => (at_(ys, at + 1) - at_(ys, at)) / (at_(xs, at + 1) - at_(xs, at));
  slopes[0] = chord(0);
  slopes[last] = chord(last - 1);
  for (let at = 1; at < last; at += 1) {
    const before = chord(at - 1);
    const after = chord(at);
    if (before * after <= 0) continue;
    const left = at_(xs, at) - at_(xs, at - 1);
    const right = at_(xs, at + 1) - at_(xs, at);
    const [wBefore, wAfter] = [2 * right + left, right + 2 * left];
    slopes[at] = (wBefore + wAfter) / (wBefore / before + wAfter / after);
  }
  return slopes;
}

const at_ = (values: ArrayLike<number>, at: number) => values[at] as number;

/** The cubic between two points with these slopes, at a share 0…1 of the width between them (Hermite). */
export function hermite(y0: number, slope0: number, y1: number, slope1: number, width: number, share: number): number {
  const s2 = share * share;
  const s3 = s2 * share;
  return (
    y0 * (2 * s3 - 3 * s2 + 1) +
    slope0 * width * (s3 - 2 * s2 + share) +
    y1 * (3 * s2 - 2 * s3) +
    slope1 * width * (s3 - s2)
  );
}
