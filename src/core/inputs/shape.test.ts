import fc from "fast-check";
import { expect, test } from "vitest";
import { shapingOf } from ".";

const knob = { low: 0, high: 1023 };

test("a 10-bit knob onto −70…+70°: its middle is 0°, a quarter turn −35°", () => {
  const shape = shapingOf([{ kind: "rangeMap", from: knob, to: { low: -70, high: 70 } }]);
  expect(shape(511.5)).toBeCloseTo(0, 12);
  expect(shape(255.75)).toBeCloseTo(-35, 12);
  expect(shape(1023)).toBe(70);
});

test("a reversed map turns the other way", () => {
  const shape = shapingOf([{ kind: "rangeMap", from: knob, to: { low: 60, high: 0 } }]);
  expect(shape(0)).toBe(60);
  expect(shape(1023)).toBe(0);
});

test("no chain at all hands the number on", () => {
  expect(shapingOf([])(17)).toBe(17);
});

test("whatever comes in, what comes out lies between the two ends", () => {
  const shape = shapingOf([{ kind: "rangeMap", from: knob, to: { low: -70, high: 70 } }]);
  fc.assert(fc.property(fc.double({ noNaN: true }), (value) => Math.abs(shape(value)) <= 70));
});
