import { expect, test } from "vitest";
import { faultlessTruth, SimServo } from ".";

const truth = { ...faultlessTruth, stopLowDeg: 5, stopHighDeg: 175, deadband: 5 };

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

test("play in the gears: after a turn back of less than it the horn stays, and it lags by half of it", () => {
  const servo = new SimServo({ ...truth, deadband: 0, backlashDeg: 2 });
  servo.step(1000, 1600);
  expect(servo.angleDeg).toBe(99);
  servo.step(1000, 1580);
  expect(servo.angleDeg).toBe(99);
  servo.step(1000, 1500);
  expect(servo.angleDeg).toBe(91);
});

test("its sensor reads the horn in whole counts, and its current tells rest, turning and pressing apart", () => {
  const servo = new SimServo({ ...truth, feedback: { atZeroDeg: 100, perDeg: 4, noise: 0 } });
  expect(servo.readSensor()).toBe(460);
  expect(servo.readCurrentMa()).toBe(0);
  servo.step(20, 2500);
  expect(servo.readCurrentMa()).toBeGreaterThan(160);
  servo.step(1000, 2500);
  expect(servo.readSensor()).toBe(800);
  expect(servo.readCurrentMa()).toBeGreaterThan(640);
  servo.step(1000, 1500);
  servo.step(20, 1500);
  expect(servo.readCurrentMa()).toBeLessThan(12);
  expect(new SimServo(truth).readSensor()).toBeNaN();
});

test("one that sticks does not turn by less than it sticks by; by more it goes all the way", () => {
  const servo = new SimServo({ ...faultlessTruth, stictionDeg: 2 });
  servo.step(1000, 1515);
  expect(servo.angleDeg).toBe(90);
  servo.step(1000, 1525);
  servo.step(20, 1525);
  expect(servo.angleDeg).toBe(92.5);
});

test("pressed against its stop the horn slips, stands still meanwhile, and is off by as much ever after", () => {
  const servo = new SimServo({ ...faultlessTruth, stopHighDeg: 100, slipDegPerS: 10 });
  for (let ms = 0; ms < 500; ms += 20) servo.step(20, 1700);
  expect(servo.angleDeg).toBe(100);
  // It stalls for about 0.48 s of the half second: some 5°.
  expect(servo.slippedDeg).toBeLessThan(-4);
  for (let ms = 0; ms < 500; ms += 20) servo.step(20, 1500);
  expect(servo.angleDeg).toBeCloseTo(90 + servo.slippedDeg, 9);
});

test("without supply it is limp, whatever its signal", () => {
  const servo = new SimServo({ ...faultlessTruth, hasSupply: false });
  for (let ms = 0; ms < 500; ms += 20) servo.step(20, 2000);
  expect(servo).toMatchObject({ angleDeg: 90, isStalled: false, isTurning: false });
});

test("under half of its torque it sags by 2°, rises half as fast, sinks half as fast again, and draws half of its stall", () => {
  const servo = new SimServo(faultlessTruth);
  servo.burden = 0.5;
  servo.step(1000, 1500);
  expect(servo.angleDeg).toBe(88);
  servo.step(20, 2000);
  expect(servo.angleDeg).toBeCloseTo(92, 9);
  servo.step(20, 1000);
  expect(servo.angleDeg).toBeCloseTo(80, 9);
  servo.step(1000, 1000);
  servo.step(20, 1000);
  expect(servo.readCurrentMa()).toBeGreaterThan(340);
  expect(servo.readCurrentMa()).toBeLessThan(470);
});

test("what is heavier than it can hold draws it down to its stop, humming", () => {
  const servo = new SimServo(faultlessTruth);
  servo.burden = 1.25;
  servo.step(100, 1500);
  expect(servo).toMatchObject({ angleDeg: 80, isStalled: true, isTurning: true });
  servo.step(5000, 1500);
  servo.step(20, 1500);
  expect(servo).toMatchObject({ angleDeg: 0, isStalled: true, isTurning: false });
});
