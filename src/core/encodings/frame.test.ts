import { expect, test } from "vitest";
import { dutyOf, fractionOf, periodUsOf, pulseUsOfDuty, pulseUsOfFraction } from ".";

test("50 Hz has a period of 20 000 µs", () => {
  expect(periodUsOf(50)).toBe(20_000);
});

test.each([
  [500, 0.025],
  [1000, 0.05],
  [1500, 0.075],
  [2000, 0.1],
  [2500, 0.125],
])("%d µs at 50 Hz is a duty of %d", (pulseUs, dutyFraction) => {
  expect(dutyOf(pulseUs, 20_000)).toBeCloseTo(dutyFraction, 12);
  expect(pulseUsOfDuty(dutyFraction, 20_000)).toBeCloseTo(pulseUs, 9);
});

test("a quarter of the way from 1000 to 2000 µs is 1250 µs", () => {
  expect(pulseUsOfFraction(0.25, 1000, 2000)).toBe(1250);
  expect(fractionOf(1250, 1000, 2000)).toBe(0.25);
  expect(fractionOf(2500, 1000, 2000)).toBe(1.5);
});
