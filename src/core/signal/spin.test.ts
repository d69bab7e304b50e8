import { expect, test } from "vitest";
import { pulseUsOfSpin, spinOf, threePointSpin } from ".";

/** Neutral off the middle, as it is on real servos: 480 µs back, 420 µs forward. */
const curve = threePointSpin(1040, 1520, 1940);

test.each([
  [-1, 1040],
  [-0.5, 1280],
  [0, 1520],
  [0.5, 1730],
  [1, 1940],
])("a spin of %d is %d µs, and back", (spin, pulseUs) => {
  expect(pulseUsOfSpin(curve, spin)).toBe(pulseUs);
  expect(spinOf(curve, pulseUs)).toBe(spin);
});

test("a servo that turns the other way has its forward pulse below neutral", () => {
  const reversed = threePointSpin(2000, 1500, 1000);
  expect(pulseUsOfSpin(reversed, 0.5)).toBe(1250);
  expect(spinOf(reversed, 1250)).toBe(0.5);
  expect(spinOf(reversed, 1750)).toBe(-0.5);
});
