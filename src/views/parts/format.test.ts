import { expect, test } from "vitest";
import { counted, formatIn, formatNumber, formatTime } from "./format";

test.each([
  [1.25, 1, "1.3"],
  [-3.14, 1, "−3.1"],
  [-0.04, 1, "0.0"],
  [Number.NaN, 2, "—"],
  [Number.POSITIVE_INFINITY, 2, "—"],
])("%d with %d decimals is %s", (value, decimals, text) => expect(formatNumber(value, decimals)).toBe(text));

test.each([
  [36, "°", "36.0°"],
  [1499.02, "µs", "1499.0 µs"],
  [7.5, "%", "7.500 %"],
  [2048, "ticks", "2048 ticks"],
  [0.5, "spin", "0.50"],
  [Number.NaN, "°", "—"],
])("%d in %s is read as %s", (value, unit, text) => expect(formatIn(value, unit)).toBe(text));

test.each([
  [350, "0.35 s"],
  [12_040, "12.0 s"],
  [185_000, "3 min 05 s"],
])("%d ms are %s", (ms, text) => expect(formatTime(ms)).toBe(text));

test("one of a thing is one, none and more are several", () => {
  expect([0, 1, 2].map((count) => counted(count, "joint"))).toEqual(["0 joints", "1 joint", "2 joints"]);
});
