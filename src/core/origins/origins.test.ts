import { expect, test } from "vitest";
import { type OriginOf, valueAt } from ".";

const range = { low: 0, high: 100 };
const wave = (shape: OriginOf<"wave">["shape"]): OriginOf<"wave"> => ({
  kind: "wave",
  shape,
  rateHz: 0.5,
  depth: 1,
  phaseDeg: 0,
});

test.each([
  ["sine", 500, 100],
  ["sine", 1500, 0],
  ["triangle", 250, 75],
  ["triangle", 1000, 50],
  ["square", 999, 100],
  ["square", 1001, 0],
  ["steps", 0, 0],
  ["steps", 900, 50],
  ["steps", 1999, 100],
] as const)("a %s of half a hertz stands after %d ms at %d", (shape, nowMs, expected) => {
  expect(valueAt(wave(shape), range, { nowMs, seed: 1, world: 0 })).toBeCloseTo(expected, 9);
});

test("depth narrows it about the middle, phase lets it begin elsewhere", () => {
  expect(valueAt({ ...wave("sine"), depth: 0.5, phaseDeg: 90 }, range, { nowMs: 0, seed: 1, world: 0 })).toBeCloseTo(
    75,
    9,
  );
});

test("smooth noise is the same each time, stays in its range, and never jumps", () => {
  let last = valueAt(wave("noise"), range, { nowMs: 0, seed: 5, world: 0 });
  for (let ms = 0; ms < 60_000; ms += 20) {
    const at = valueAt(wave("noise"), range, { nowMs: ms, seed: 5, world: 0 });
    expect(at).toBe(valueAt(wave("noise"), range, { nowMs: ms, seed: 5, world: 0 }));
    expect(at).toBeGreaterThanOrEqual(0);
    expect(at).toBeLessThanOrEqual(100);
    expect(Math.abs(at - last)).toBeLessThan(2);
    last = at;
  }
});

test("a sensor sees its world through its own curve: light by the root, distance falls as it grows; whole numbers, within range", () => {
  const quiet = { kind: "sensor", noise: 0, driftPerMin: 0 } as const;
  const range = { low: 0, high: 1000 };
  expect(valueAt({ ...quiet, sense: "light" }, range, { nowMs: 0, seed: 1, world: 0.25 })).toBe(500);
  expect(valueAt({ ...quiet, sense: "distance" }, range, { nowMs: 0, seed: 1, world: 0.08 })).toBe(500);
  expect(
    valueAt({ ...quiet, sense: "temperature", driftPerMin: 0.1 }, range, { nowMs: 60_000, seed: 1, world: 0.2 }),
  ).toBe(300);
  const noisy = Array.from({ length: 200 }, (_, at) =>
    valueAt({ ...quiet, sense: "flex", noise: 0.1 }, range, { nowMs: at * 20, seed: 1, world: 0.5 }),
  );
  expect(new Set(noisy).size).toBeGreaterThan(50);
  for (const one of noisy) expect(one >= 0 && one <= 1000 && Number.isInteger(one)).toBe(true);
});
