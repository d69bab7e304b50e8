import fc from "fast-check";
import { expect, test } from "vitest";
import type { Easing } from ".";
import { demandOf, easedBy, monotoneSlopes } from ".";
import { overshootFactor } from "./overshoot";

const at = (easing: Easing, ...shares: number[]) => shares.map((share) => Number(easedBy(easing)(share).toFixed(6)));

test("a quarter, half and three quarters of the time, worked out by hand", () => {
  expect(at({ kind: "even" }, 0.25, 0.5, 0.75)).toEqual([0.25, 0.5, 0.75]);
  expect(at({ kind: "in" }, 0.25, 0.5, 0.75)).toEqual([0.0625, 0.25, 0.5625]);
  expect(at({ kind: "out" }, 0.25, 0.5, 0.75)).toEqual([0.4375, 0.75, 0.9375]);
  expect(at({ kind: "both" }, 0.25, 0.5, 0.75)).toEqual([0.15625, 0.5, 0.84375]);
  // 10/64 − 15/256 + 6/1024
  expect(at({ kind: "leastJerk" }, 0.25, 0.5, 0.75)).toEqual([0.103516, 0.5, 0.896484]);
});

test("an overshoot of 10 % has the factor 1.70158 that many tables give, and its peak is 1.1", () => {
  expect(overshootFactor(0.1)).toBeCloseTo(1.70158, 4);
  const curve = easedBy({ kind: "overshoot", by: 0.1 });
  expect(Math.max(...Array.from({ length: 1001 }, (_, step) => curve(step / 1000)))).toBeCloseTo(1.1, 5);
});

const easings: Easing[] = [
  { kind: "even" },
  { kind: "in" },
  { kind: "out" },
  { kind: "both" },
  { kind: "leastJerk" },
  { kind: "overshoot", by: 0.25 },
  {
    kind: "drawn",
    points: [
      { x: 0, y: 0 },
      { x: 0.2, y: 0.6 },
      { x: 0.6, y: 0.6 },
      { x: 1, y: 1 },
    ],
  },
];

test.each(easings)("%j begins at 0, ends at 1, and is never faster or more sudden than it says", (easing) => {
  const curve = easedBy(easing);
  expect(curve(0)).toBeCloseTo(0, 12);
  expect(curve(1)).toBeCloseTo(1, 12);
  const { peakRate, peakAcceleration } = demandOf(easing);
  const steps = 4000;
  let rate = 0;
  let bend = 0;
  for (let step = 1; step < steps; step += 1) {
    const [a, b, c] = [step - 1, step, step + 1].map((one) => curve(one / steps)) as [number, number, number];
    rate = Math.max(rate, Math.abs(b - a) * steps);
    bend = Math.max(bend, Math.abs(c - 2 * b + a) * steps * steps);
  }
  expect(rate).toBeLessThanOrEqual(peakRate * 1.001);
  expect(rate).toBeGreaterThan(peakRate * 0.99);
  expect(bend).toBeLessThanOrEqual(peakAcceleration * 1.01);
});

test("a drawn curve passes its points, is level where they are, and never leaves what lies between two of them", () => {
  expect(at(easings[6] as Easing, 0.2, 0.4, 0.6)).toEqual([0.6, 0.6, 0.6]);
  const rising = fc.uniqueArray(fc.integer({ min: 1, max: 99 }), { minLength: 1, maxLength: 6 });
  fc.assert(
    fc.property(
      rising,
      fc.array(fc.double({ min: 0, max: 1, noNaN: true }), { minLength: 6, maxLength: 6 }),
      (xs, ys) => {
        const inner = xs.toSorted((a, b) => a - b).map((x, place) => ({ x: x / 100, y: ys[place] as number }));
        const points = [{ x: 0, y: 0 }, ...inner, { x: 1, y: 1 }];
        const curve = easedBy({ kind: "drawn", points });
        for (let share = 0; share <= 1; share += 0.01) {
          const next = Math.max(
            1,
            points.findIndex((point) => point.x >= share),
          );
          const [a, b] = [points[next - 1]?.y ?? 0, points[next]?.y ?? 1];
          expect(curve(share)).toBeGreaterThanOrEqual(Math.min(a, b) - 1e-9);
          expect(curve(share)).toBeLessThanOrEqual(Math.max(a, b) + 1e-9);
        }
      },
    ),
  );
});

test("slopes: the chord at the ends, 0 at a peak, the weighted harmonic mean between", () => {
  expect([...monotoneSlopes([0, 1, 2, 3], [0, 1, 3, 2])]).toEqual([1, 4 / 3, 0, -1]);
});
