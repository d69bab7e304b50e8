import type { DeviceOf } from "@core/project";
import { expect, test } from "vitest";
import { sensorAt, waveAt } from ".";

const range = { low: 0, high: 100 };
const wave = (shape: DeviceOf<"wave">["shape"]): DeviceOf<"wave"> => ({
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
  expect(waveAt(wave(shape), range, nowMs, 1)).toBeCloseTo(expected, 9);
});

test("depth narrows it about the middle, phase lets it begin elsewhere", () => {
  expect(waveAt({ ...wave("sine"), depth: 0.5, phaseDeg: 90 }, range, 0, 1)).toBeCloseTo(75, 9);
});

test("smooth noise is the same each time, stays in its range, and never jumps", () => {
  let last = waveAt(wave("noise"), range, 0, 5);
  for (let ms = 0; ms < 60_000; ms += 20) {
    const at = waveAt(wave("noise"), range, ms, 5);
    expect(at).toBe(waveAt(wave("noise"), range, ms, 5));
    expect(at).toBeGreaterThanOrEqual(0);
    expect(at).toBeLessThanOrEqual(100);
    expect(Math.abs(at - last)).toBeLessThan(2);
    last = at;
  }
});

test("a sensor sees its world through its own curve: light by the root, distance falls as it grows; whole numbers, within range", () => {
  const quiet = { kind: "sensor", noise: 0, driftPerMin: 0 } as const;
  const range = { low: 0, high: 1000 };
  expect(sensorAt({ ...quiet, sense: "light" }, range, 0.25, 0, 1)).toBe(500);
  expect(sensorAt({ ...quiet, sense: "distance" }, range, 0.08, 0, 1)).toBe(500);
  expect(sensorAt({ ...quiet, sense: "temperature", driftPerMin: 0.1 }, range, 0.2, 60_000, 1)).toBe(300);
  const noisy = Array.from({ length: 200 }, (_, at) =>
    sensorAt({ ...quiet, sense: "flex", noise: 0.1 }, range, 0.5, at * 20, 1),
  );
  expect(new Set(noisy).size).toBeGreaterThan(50);
  for (const one of noisy) expect(one >= 0 && one <= 1000 && Number.isInteger(one)).toBe(true);
});
