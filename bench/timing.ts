/** The median time of one call in µs: `rounds` rounds of `calls` calls, after one round to warm up. */
export function medianUs(calls: number, rounds: number, call: () => void): number {
  const times: number[] = [];
  for (let round = 0; round <= rounds; round += 1) {
    const startMs = performance.now();
    for (let at = 0; at < calls; at += 1) call();
    if (round > 0) times.push(((performance.now() - startMs) * 1000) / calls);
  }
  return times.sort((a, b) => a - b)[Math.floor(times.length / 2)] as number;
}
