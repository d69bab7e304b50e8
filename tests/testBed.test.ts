import { expect, test } from "vitest";
import { calibrate, randomTruth } from "./scriptedPerson";

/** A scripted person calibrates servos with random truths; `npm run bench` does 200 and prints the figures. */
const outcomes = Array.from({ length: 40 }, (_, seed) => calibrate(randomTruth(seed), seed));

test("stops are found close to the truth and never overrun where the tool would leave the servo", () => {
  for (const { stopErrors } of outcomes)
    for (const error of stopErrors) {
      expect(error).toBeGreaterThan(-5);
      expect(error).toBeLessThan(5);
    }
});

test("no servo is pressed against a stop for longer than 0.7 s", () => {
  expect(Math.max(...outcomes.map((outcome) => outcome.longestPressedMs))).toBeLessThanOrEqual(700);
});

test("with five points read to half a degree, angles are true to half a degree on average", () => {
  const mean = outcomes.reduce((sum, outcome) => sum + outcome.meanErrorDeg, 0) / outcomes.length;
  expect(mean).toBeLessThan(0.5);
});

test("the checking run tells the play in the gears", () => {
  const mean = outcomes.reduce((sum, outcome) => sum + outcome.playErrorDeg, 0) / outcomes.length;
  expect(mean).toBeLessThan(0.4);
});

test("it takes a fraction of the steps of a plain search", () => {
  const steps = outcomes.reduce((sum, outcome) => sum + outcome.steps, 0);
  const linear = outcomes.reduce((sum, outcome) => sum + outcome.linearSteps, 0);
  expect(steps / linear).toBeLessThan(0.2);
});
