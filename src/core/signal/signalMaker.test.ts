import {
  countWithin,
  type Encoding,
  type EncodingOf,
  makerOf,
  pulseChipPrescale,
  sleepsFor,
  timerTop,
} from "@core/encodings";
import type { Board } from "@core/project";
import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { signalMakerOf } from ".";

const board = (encoding: Encoding, frameHz = 50): Board => ({
  id: "b",
  label: "B",
  channels: 16,
  frameHz: [frameHz],
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
    expect(signalMakerOf(twelveBits).exactCount(pulseUs)).toBeCloseTo(of4096, 9);
    expect(signalMakerOf(sixteenBits).exactCount(pulseUs)).toBeCloseTo(of65535, 9);
  });

  test("one count of 8 bits is 78.4 µs", () => {
    expect(signalMakerOf(eightBits).step).toBeCloseTo(78.43, 2);
  });
});

test("12 bits round 1500 µs to 307 counts, which come out as 1499.02 µs", () => {
  const maker = signalMakerOf(twelveBits);
  expect(maker.toCount(1500)).toBe(307);
  expect(maker.toSetPoint(307)).toBeCloseTo(1499.023, 3);
});

test("a board that truncates takes 8191 for 2500 µs, not 8192", () => {
  expect(signalMakerOf(sixteenBits).toCount(2500)).toBe(8191);
});

test("a count's own set point gives the same count back, rounding or truncating", () => {
  for (const maker of [signalMakerOf(twelveBits), signalMakerOf(sixteenBits)])
    for (let count = 0; count <= maker.highestCount; count += 7)
      expect(maker.toCount(maker.toSetPoint(count))).toBe(count);
});

test("an 11-bit pulse is never longer than the count can say", () => {
  expect(signalMakerOf(twelveBits).toCount(1e9)).toBe(4095);
  expect(signalMakerOf(twelveBits).toCount(-5)).toBe(0);
});

test("rounding never leaves the window", () => {
  // 2500 µs is 511.9 counts of 4095: rounding up would make 2500.6 µs.
  const maker = signalMakerOf(board({ kind: "counts", bits: 12, fullScale: "2^n-1", rounding: "round" }));
  expect(maker.toCount(2500)).toBe(512);
  expect(countWithin(maker, 2500, 500, 2500)).toBe(511);
  fc.assert(
    fc.property(fc.double({ min: 500, max: 2500, noNaN: true }), fc.integer({ min: 9, max: 16 }), (pulseUs, bits) => {
      const any = signalMakerOf(board({ kind: "counts", bits, fullScale: "2^n-1", rounding: "round" }));
      const made = any.toSetPoint(countWithin(any, pulseUs, 500, 2500));
      expect(made).toBeGreaterThanOrEqual(500);
      expect(made).toBeLessThanOrEqual(2500);
      expect(Math.abs(made - pulseUs)).toBeLessThanOrEqual(any.step);
    }),
  );
});

test("a window with no count inside gives no count at all", () => {
  expect(countWithin(signalMakerOf(eightBits), 1510, 1505, 1520)).toBeNaN();
});

describe("a pulse chip of 20 MHz and 13 bits", () => {
  const chip = (oscillatorErrorPercent: number) =>
    makerOf({ kind: "pulseChip", oscillatorHz: 20e6, oscillatorErrorPercent, bits: 13, rounding: "round" }, 50);

  test("asked for 50 Hz takes prescale 48 and gives 49.82 Hz; 1500 µs is 612.24 counts", () => {
    expect(
      pulseChipPrescale(
        { kind: "pulseChip", oscillatorHz: 20e6, oscillatorErrorPercent: 0, bits: 13, rounding: "round" },
        50,
      ),
    ).toBe(48);
    expect(1e6 / chip(0).periodUs).toBeCloseTo(49.82, 2);
    expect(chip(0).exactCount(1500)).toBeCloseTo(612.245, 3);
  });

  test("whose oscillator runs 5 % fast makes every pulse 4.76 % short for the same count", () => {
    expect(chip(5).toSetPoint(307) / chip(0).toSetPoint(307)).toBeCloseTo(1 / 1.05, 9);
  });
});

describe("timers", () => {
  const timer = (change: Partial<EncodingOf<"timer">> = {}): EncodingOf<"timer"> => ({
    kind: "timer",
    clockHz: 12e6,
    prescale: 12,
    counterBits: 16,
    alignment: "edge",
    output: "normal",
    ...change,
  });

  test("12 MHz by 12 with TOP 19 999 is 50 Hz exactly, in ticks of 1 µs; high time is compare + 1", () => {
    expect(timerTop(timer(), 50)).toBe(19_999);
    const maker = makerOf(timer(), 50);
    expect(maker.periodUs).toBe(20_000);
    expect(maker.toCount(1500)).toBe(1499);
    expect(maker.toSetPoint(1499)).toBe(1500);
  });

  test("12 MHz by 6 with TOP 39 999 is 50 Hz, in ticks of 0.5 µs; 20 MHz by 8 with TOP 49 999 in ticks of 0.4 µs", () => {
    expect(timerTop(timer({ prescale: 6 }), 50)).toBe(39_999);
    expect(makerOf(timer({ prescale: 6 }), 50).step).toBe(0.5);
    const faster = timer({ clockHz: 20e6, prescale: 8 });
    expect(timerTop(faster, 50)).toBe(49_999);
    expect(makerOf(faster, 50).step).toBeCloseTo(0.4, 12);
  });

  test("inverted, high time is TOP − compare: a larger compare makes a shorter pulse", () => {
    const maker = makerOf(timer({ output: "inverted" }), 50);
    expect(maker.toCount(1500)).toBe(18_499);
    expect(maker.toSetPoint(18_499)).toBe(1500);
    expect(countWithin(maker, 2499.6, 500, 2499.7)).toBe(17_500);
  });

  test("centre-aligned it counts up and down: TOP 10 000, high time 2 × compare", () => {
    const maker = makerOf(timer({ alignment: "centre" }), 50);
    expect(timerTop(timer({ alignment: "centre" }), 50)).toBe(10_000);
    expect(maker.periodUs).toBe(20_000);
    expect(maker.toCount(1500)).toBe(750);
    expect(maker.step).toBe(2);
    expect(makerOf(timer({ alignment: "centre", output: "inverted" }), 50).toCount(1500)).toBe(9250);
  });
});

describe("calls and loops", () => {
  const software = (framing: EncodingOf<"software">["framing"]): EncodingOf<"software"> => ({
    kind: "software",
    framing,
    granularityUs: 10,
    largestDelayUs: 15_000,
    loopOverheadUs: 40,
    lateness: { floorUs: 0, meanUs: 0, spikeChance: 0, spikeMeanUs: 0 },
  });

  test("a duty of whole per cent at 50 Hz: 7.5 % becomes 8 %, 1600 µs", () => {
    const maker = makerOf({ kind: "percent", stepPercent: 1, rounding: "round" }, 50);
    expect(maker.toSetPoint(maker.toCount(1500))).toBe(1600);
    expect(maker.toCount(1500) * maker.perCount).toBe(8);
  });

  test("a µs call makes whole µs", () => {
    const maker = makerOf({ kind: "microseconds", tickUs: 1 }, 50);
    expect(maker.toSetPoint(maker.toCount(1500.4))).toBe(1500);
  });

  test("a fixed gap of 20 ms after 1500 µs is 46.51 Hz, and a little less with its loop", () => {
    const free = { ...software({ kind: "fixedGap", gapUs: 20_000 }), loopOverheadUs: 0 };
    expect(1e6 / makerOf(free, 50).periodUs).toBeCloseTo(46.51, 2);
    expect(makerOf(software({ kind: "fixedGap", gapUs: 20_000 }), 50).periodUsAt(2000)).toBe(22_040);
    expect(makerOf(software({ kind: "fixedPeriod" }), 50).periodUsAt(2000)).toBe(20_000);
    // A gap of half a millisecond: the frame at 1500 µs is 2 ms, and a pulse of 2400, 240 steps of 10, is not cut to that.
    expect(makerOf(software({ kind: "fixedGap", gapUs: 500 }), 50).toCount(2400)).toBe(240);
  });

  test("a sleep of 18 500 µs takes two calls when one sleeps 16 383 at most", () => {
    expect(sleepsFor(18_500, 15_000)).toBe(2);
    expect(sleepsFor(15_000, 15_000)).toBe(1);
  });
});

test("every way: round trip within one step, monotone, and never off by more than half a step when it rounds", () => {
  const ways: Encoding[] = [
    { kind: "percent", stepPercent: 0.1, rounding: "round" },
    { kind: "counts", bits: 12, fullScale: "2^n", rounding: "round" },
    { kind: "counts", bits: 16, fullScale: "2^n-1", rounding: "truncate" },
    { kind: "pulseChip", oscillatorHz: 25e6, oscillatorErrorPercent: 3, bits: 12, rounding: "round" },
    ...(["edge", "centre"] as const).flatMap((alignment) =>
      (["normal", "inverted"] as const).map(
        (output): Encoding => ({ kind: "timer", clockHz: 16e6, prescale: 8, counterBits: 16, alignment, output }),
      ),
    ),
    { kind: "microseconds", tickUs: 1 },
  ];
  const pulse = fc.double({ min: 400, max: 2600, noNaN: true });
  fc.assert(
    fc.property(
      fc.constantFrom(...ways),
      pulse,
      pulse,
      fc.double({ min: 40, max: 60, noNaN: true }),
      (way, a, b, hz) => {
        const maker = makerOf(way, hz);
        const made = (pulseUs: number) => maker.toSetPoint(maker.toCount(pulseUs));
        const isTruncating = "rounding" in way && way.rounding === "truncate";
        expect(Math.abs(made(a) - a)).toBeLessThanOrEqual(maker.step * (isTruncating ? 1 : 0.5) + 1e-6);
        if (a < b) expect(made(a)).toBeLessThanOrEqual(made(b));
      },
    ),
  );
});
