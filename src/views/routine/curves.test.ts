import { expect, test } from "vitest";
import { curvePath, type LaneBox, targetAt, yOf } from "./curves";

const box: LaneBox = { heightPx: 100, low: -50, high: 50, travelLow: -40, travelHigh: 40, middle: 0 };

test("a lane shows its highest target at its head, and reads heights back", () => {
  expect([50, 0, -50].map((deg) => yOf(box, deg))).toEqual([0, 50, 100]);
  expect(targetAt(box, yOf(box, 12.5))).toBeCloseTo(12.5, 9);
});

test("a curve is broken where there is no value, and stays at the edge where it leaves the lane", () => {
  const scale = { fromMs: 0, msPerPx: 10, widthPx: 8 };
  expect(curvePath((ms) => (ms === 40 ? Number.NaN : ms), scale, box)).toBe("M0 50.0L2 30.0M6 1.0L8 1.0");
});
