import type { PositionalTruth } from "@core/project";
import { expect, test } from "vitest";
import { SimServo } from ".";

const truth: PositionalTruth = {
  kind: "positional",
  cardId: "c",
  centre: 1500,
  midDeg: 90,
  perDeg: 10,
  bend: 0,
  stopLowDeg: 5,
  stopHighDeg: 175,
  deadband: 5,
  speedDegPerS: 400,
  noiseDeg: 0,
  startDeg: 90,
};

test("it turns at its own speed: 8° in 20 ms at 400 °/s, and arrives", () => {
  const servo = new SimServo(truth);
  servo.step(20, 2000);
  expect(servo.angleDeg).toBeCloseTo(98, 9);
  for (let frame = 0; frame < 5; frame += 1) servo.step(20, 2000);
  expect(servo.angleDeg).toBeCloseTo(138, 9);
  servo.step(20, 2000);
  expect(servo.angleDeg).toBeCloseTo(140, 9);
});

test("a change smaller than the deadband turns nothing", () => {
  const servo = new SimServo(truth);
  servo.step(1000, 1500);
  servo.step(1000, 1504);
  expect(servo.angleDeg).toBe(90);
  servo.step(1000, 1505);
  expect(servo.angleDeg).toBeCloseTo(90.5, 9);
});

test("it stops at its end stop and hums there", () => {
  const servo = new SimServo(truth);
  servo.step(1000, 2500);
  expect(servo.angleDeg).toBe(175);
  expect(servo.isStalled).toBe(true);
  servo.step(1000, 2000);
  expect(servo.isStalled).toBe(false);
});

test("without a signal it goes limp where it is, even half-way", () => {
  const servo = new SimServo(truth);
  servo.step(20, 2000);
  for (let frame = 0; frame < 10; frame += 1) servo.step(20, Number.NaN);
  expect(servo.angleDeg).toBeCloseTo(98, 9);
});

test("a bent servo agrees with its line at the centre only: 45° asked, 46.1° turned", () => {
  // share = 0.5, so 45 × (1 + 0.05 × 0.5) = 46.125
  const servo = new SimServo({ ...truth, bend: 0.05 });
  servo.step(1000, 1950);
  expect(servo.angleDeg).toBeCloseTo(136.125, 9);
});

test("a continuous servo creeps at 1500 µs when its neutral is 1522", () => {
  const servo = new SimServo({
    kind: "continuous",
    cardId: "v",
    neutral: 1522,
    deadband: 9,
    span: 220,
    fullSpeedDegPerS: 300,
    noiseDeg: 0,
  });
  servo.step(1000, 1500);
  expect(servo.angleDeg).toBeCloseTo(-30, 9);
  servo.step(1000, 1522);
  servo.step(1000, 1530);
  expect(servo.angleDeg).toBeCloseTo(-30, 9);
});
