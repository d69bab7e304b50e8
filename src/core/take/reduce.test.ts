import fc from "fast-check";
import { expect, test } from "vitest";
import { largestError, reduceToCorners } from ".";

test("a straight ramp needs its two ends; a triangle one corner more", () => {
  const ramp = Float32Array.from({ length: 51 }, (_, at) => at);
  expect(reduceToCorners(ramp, 20, 0.1)).toHaveLength(2);
  const triangle = Float32Array.from({ length: 101 }, (_, at) => 50 - Math.abs(at - 50));
  const corners = reduceToCorners(triangle, 20, 0.1);
  expect(corners).toHaveLength(3);
  expect(Math.abs((corners[1]?.atMs ?? 0) - 1000)).toBeLessThan(5);
  expect(Math.abs((corners[1]?.target ?? 0) - 50)).toBeLessThan(0.11);
});

test("a joint that nobody moved is one level line, however long", () => {
  const still = new Float32Array(30_000).fill(12.5);
  const corners = reduceToCorners(still, 20, 0.2);
  expect(corners).toHaveLength(2);
  expect(corners[0]?.target).toBeCloseTo(12.5, 5);
});

test("half a degree of noise about a line vanishes under a bound of half a degree", () => {
  const noisy = Float32Array.from({ length: 500 }, (_, at) => 10 + at * 0.05 + 0.49 * Math.sin(at * 1.7));
  expect(reduceToCorners(noisy, 20, 0.5)).toHaveLength(2);
});

/** Samples as a hand makes them: quiet stretches, ramps and jumps, with some noise. */
const takes = fc
  .array(
    fc.record({
      frames: fc.integer({ min: 1, max: 12 }),
      to: fc.integer({ min: -60, max: 60 }),
      noise: fc.double({ min: 0, max: 3, noNaN: true }),
    }),
    { minLength: 1, maxLength: 8 },
  )
  .map((parts) => {
    const samples = [0];
    for (const { frames, to, noise } of parts) {
      const from = samples.at(-1) as number;
      for (let at = 1; at <= frames; at += 1)
        samples.push(from + ((to - from) * at) / frames + noise * Math.sin(samples.length * 2.3));
    }
    return Float32Array.from(samples);
  });
const bounds = fc.double({ min: 0.05, max: 8, noNaN: true });

test("the error is never above the bound, and the corners stand in the order of time", () => {
  fc.assert(
    fc.property(takes, bounds, (samples, bound) => {
      const corners = reduceToCorners(samples, 20, bound);
      expect(largestError(samples, 20, corners)).toBeLessThanOrEqual(bound);
      for (let at = 1; at < corners.length; at += 1)
        expect(corners[at]?.atMs).toBeGreaterThan(corners[at - 1]?.atMs ?? 0);
      expect(corners[0]?.atMs).toBe(0);
      expect(corners.at(-1)?.atMs).toBe((samples.length - 1) * 20);
    }),
    { numRuns: 2000 },
  );
});

/**
 * The fewest corners by another method: corners at frames only, with targets on a fine grid within the bound, every way tried (dynamic
 * programming). Finer grids and other times can only do better, so no true optimum may need more corners than this.
 */
function fewestOnGrid(samples: Float32Array, bound: number, levels: number): number {
  const grid = (at: number, level: number) => (samples[at] as number) - bound + (2 * bound * level) / (levels - 1);
  const fewest = Array.from(samples, () => new Array<number>(levels).fill(Number.POSITIVE_INFINITY));
  (fewest[0] as number[]).fill(1);
  for (let to = 1; to < samples.length; to += 1)
    for (let from = 0; from < to; from += 1)
      for (let a = 0; a < levels; a += 1)
        for (let b = 0; b < levels; b += 1) {
          const cost = (fewest[from]?.[a] ?? Number.POSITIVE_INFINITY) + 1;
          if (cost >= (fewest[to]?.[b] ?? 0)) continue;
          const [y0, y1] = [grid(from, a), grid(to, b)];
          let fits = true;
          for (let at = from + 1; at < to && fits; at += 1)
            fits = Math.abs(y0 + ((y1 - y0) * (at - from)) / (to - from) - (samples[at] as number)) <= bound + 1e-9;
          if (fits) (fewest[to] as number[])[b] = cost;
        }
  return Math.min(...(fewest.at(-1) as number[]));
}

test("no way with corners on frames, of all that there are on a grid, needs fewer", () => {
  fc.assert(
    fc.property(takes, fc.double({ min: 0.5, max: 8, noNaN: true }), (samples, bound) => {
      const short = samples.slice(0, 14);
      expect(reduceToCorners(short, 20, bound).length).toBeLessThanOrEqual(fewestOnGrid(short, bound * 0.999, 9));
    }),
    { numRuns: 150 },
  );
});
