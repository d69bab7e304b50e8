import type { Board, Encoding } from "@core/project";
import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { registerWithin, signalMakerOf } from ".";

const board = (encoding: Encoding, frameHz = 50): Board => ({
  id: "b",
  label: "B",
  channels: 16,
  frameHz,
  encoding,
  silence: { afterMs: 500, action: "release" },
  link: { kind: "simulated" },
});
const twelveBits = board({ kind: "counts", bits: 12, fullScale: "2^n", rounding: "round" });
const sixteenBits = board({ kind: "counts", bits: 16, fullScale: "2^n-1", rounding: "truncate" });
const eightBits = board({ kind: "counts", bits: 8, fullScale: "2^n-1", rounding: "round" });

describe("the reference values of the trade, at 50 Hz", () => {
  test.each([
    [500, 102.4, 1638.375],
    [1500, 307.2, 4915.125],
    [2500, 512, 8191.875],
  ])("%d µs is %d of 4096 and %d of 65 535", (pulseUs, of4096, of65535) => {
    expect(signalMakerOf(twelveBits).exactRegister(pulseUs)).toBeCloseTo(of4096, 9);
    expect(signalMakerOf(sixteenBits).exactRegister(pulseUs)).toBeCloseTo(of65535, 9);
  });

  test("one count of 8 bits is 78.4 µs", () => {
    expect(signalMakerOf(eightBits).step).toBeCloseTo(78.43, 2);
  });
});

test("12 bits round 1500 µs to 307 counts, which come out as 1499.02 µs", () => {
  const maker = signalMakerOf(twelveBits);
  expect(maker.toRegister(1500)).toBe(307);
  expect(maker.toSetPoint(307)).toBeCloseTo(1499.023, 3);
});

test("a board that truncates takes 8191 for 2500 µs, not 8192", () => {
  expect(signalMakerOf(sixteenBits).toRegister(2500)).toBe(8191);
});

test("a register's own set point gives the same register back, rounding or truncating", () => {
  for (const maker of [signalMakerOf(twelveBits), signalMakerOf(sixteenBits)])
    for (let register = 0; register <= maker.highestRegister; register += 7)
      expect(maker.toRegister(maker.toSetPoint(register))).toBe(register);
});

test("an 11-bit pulse is never longer than the register can say", () => {
  expect(signalMakerOf(twelveBits).toRegister(1e9)).toBe(4095);
  expect(signalMakerOf(twelveBits).toRegister(-5)).toBe(0);
});

test("rounding never leaves the window", () => {
  // 2500 µs is 511.9 counts of 4095: rounding up would make 2500.6 µs.
  const maker = signalMakerOf(board({ kind: "counts", bits: 12, fullScale: "2^n-1", rounding: "round" }));
  expect(maker.toRegister(2500)).toBe(512);
  expect(registerWithin(maker, 2500, 500, 2500)).toBe(511);
  fc.assert(
    fc.property(fc.double({ min: 500, max: 2500, noNaN: true }), fc.integer({ min: 9, max: 16 }), (pulseUs, bits) => {
      const any = signalMakerOf(board({ kind: "counts", bits, fullScale: "2^n-1", rounding: "round" }));
      const made = any.toSetPoint(registerWithin(any, pulseUs, 500, 2500));
      expect(made).toBeGreaterThanOrEqual(500);
      expect(made).toBeLessThanOrEqual(2500);
      expect(Math.abs(made - pulseUs)).toBeLessThanOrEqual(any.step);
    }),
  );
});

test("a window with no register inside gives no register at all", () => {
  expect(registerWithin(signalMakerOf(eightBits), 1510, 1505, 1520)).toBeNaN();
});
