/**
 * Smooths a take without lag: each sample becomes the middle of the parabola that fits its neighbours best, as many before as after
 * (Savitzky and Golay 1964), so that nothing is shifted in time and slow peaks keep their height. Near the ends fewer neighbours
 * are looked at, down to none. `windowMs` is how far the neighbours reach, both sides together.
 */
export function smoothed(samples: Float32Array, frameMs: number, windowMs: number): Float32Array {
  const most = Math.floor(windowMs / frameMs / 2);
  const weights = Array.from({ length: most + 1 }, (_, half) => weightsOf(half));
  return samples.map((_, at) => {
    const half = Math.min(most, at, samples.length - 1 - at);
    const row = weights[half] as Float64Array;
    let sum = 0;
    for (let by = -half; by <= half; by += 1) sum += (row[Math.abs(by)] as number) * (samples[at + by] as number);
    return sum;
  });
}

/** The weights of the middle of a best parabola through 2 × half + 1 points, from the middle outwards. */
function weightsOf(half: number): Float64Array {
  const whole = (2 * half - 1) * (2 * half + 1) * (2 * half + 3);
  return Float64Array.from({ length: half + 1 }, (_, by) =>
    half === 0 ? 1 : (3 * (3 * half * half + 3 * half - 1) - 15 * by * by) / whole,
  );
}
