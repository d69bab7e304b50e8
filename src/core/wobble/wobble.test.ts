import { type EncodingOf, makerOf, type WakeLateness } from "@core/encodings";
import { describe, expect, test } from "vitest";
import { reportOf, simulateWobble, verdictOf, type WobbleAsk, type WobbleRun } from ".";
import { PulseSpread } from "./pulseSpread";

const exact: WakeLateness = { floorUs: 0, meanUs: 0, spikeChance: 0, spikeMeanUs: 0 };
const software = (change: Partial<EncodingOf<"software">>): EncodingOf<"software"> => ({
  kind: "software",
  framing: { kind: "fixedPeriod" },
  granularityUs: 1,
  largestDelayUs: 1e9,
  loopOverheadUs: 0,
  lateness: exact,
  ...change,
});
function run(change: Partial<EncodingOf<"software">>, ask: Partial<WobbleAsk> = {}): WobbleRun {
  const steps = simulateWobble({
    encoding: software(change),
    frameHz: 50,
    pulseUs: 1500,
    frames: 200_000,
    seed: 7,
    ...ask,
  });
  for (;;) {
    const step = steps.next();
    if (step.done) return step.value;
  }
}

test("a program that is never late makes the asked pulse and frame", () => {
  const made = run({});
  expect(made.pulses.worstUs).toBe(1500);
  expect(made.meanPeriodUs).toBeCloseTo(20_000, 6);
  expect(made.lostFrames).toBe(0);
});

test("sleeps are rounded up to the granularity: 1500 µs in steps of 64 are 1536", () => {
  expect(run({ granularityUs: 64 }).pulses.worstUs).toBe(1536);
});

test("a lateness of 10 µs on average: median 10 ln 2, 95 % at 10 ln 20, 99.9 % at 10 ln 1000", () => {
  const { pulses } = run({ lateness: { ...exact, meanUs: 10 } });
  expect(pulses.quantileUs(0.5) - 1500).toBeCloseTo(6.93, 0);
  expect(pulses.quantileUs(0.95) - 1500).toBeCloseTo(29.96, 0);
  expect(Math.abs(pulses.quantileUs(0.999) - 1500 - 69.08)).toBeLessThan(3);
  expect(pulses.sumUs / pulses.count).toBeCloseTo(1510, 0);
});

test("with a deadline lateness does not add up; with a fixed gap it lengthens every frame", () => {
  const late = { ...exact, floorUs: 50 };
  expect(run({ lateness: late }).meanPeriodUs).toBeCloseTo(20_000, 0);
  expect(run({ lateness: late, framing: { kind: "fixedGap", gapUs: 18_500 } }).meanPeriodUs).toBeCloseTo(20_100, 6);
});

test("a wait that must be split wakes late more often", () => {
  const gap = { framing: { kind: "fixedGap", gapUs: 18_500 } as const, lateness: { ...exact, floorUs: 50 } };
  // 18 500 µs in sleeps of 5000 at most: four of them instead of one.
  expect(run({ ...gap, largestDelayUs: 5000 }).meanPeriodUs).toBeCloseTo(20_000 + 50 + 4 * 50, 6);
});

test("spikes of 30 ms in one of a hundred wake-ups lose frames", () => {
  const made = run({ lateness: { ...exact, spikeChance: 0.01, spikeMeanUs: 30_000 } });
  expect(made.lostFrames).toBeGreaterThan(500);
  expect(made.longestPeriodUs).toBeGreaterThan(40_000);
});

test("the same seed gives the same run", () => {
  const lateness = { ...exact, meanUs: 10 };
  expect(run({ lateness }).pulses.worstUs).toBe(run({ lateness }).pulses.worstUs);
  expect(run({ lateness }, { seed: 8 }).pulses.worstUs).not.toBe(run({ lateness }).pulses.worstUs);
});

test("spikes of 3 ms: 99.5 % is read off, and is not the worst; the scale ended 2 ms past the pulse", () => {
  const { pulses } = run({ lateness: { ...exact, spikeChance: 0.01, spikeMeanUs: 3000 } });
  // 1 % of the pulses end in a spike; half of those, 0.5 % of all, are later than the median of spikes, 3000 ln 2.
  const lateUs = pulses.quantileUs(0.995) - 1500;
  expect(Math.abs(lateUs - 3000 * Math.LN2)).toBeLessThan(200);
  expect(pulses.worstUs - 1500).toBeGreaterThan(5 * lateUs);
});

test("quantiles are within 0.1 µs, or a thousandth of the lateness, of those of the sorted pulses", () => {
  const spread = new PulseSpread(1000);
  const all = Array.from({ length: 5000 }, (_, at) => 1000 + 0.003 * at ** 2.2);
  for (const pulse of all) spread.add(pulse);
  for (const share of [0.01, 0.5, 0.95, 0.999]) {
    const exactUs = all[Math.ceil(share * 5000) - 1] as number;
    expect(Math.abs(spread.quantileUs(share) - exactUs)).toBeLessThanOrEqual(Math.max(0.1, 0.001 * (exactUs - 1000)));
  }
});

test("pulses that are all the same are no twitch, however long they are", () => {
  expect(run({ granularityUs: 4000 }).pulses.shareBeyond(0)).toBe(0);
});

test("a lost frame is a period without a pulse, with a deadline as with a gap", () => {
  const lateness = { ...exact, spikeChance: 1 };
  const gap = run(
    { framing: { kind: "fixedGap", gapUs: 18_500 }, lateness: { ...lateness, floorUs: 25_000 } },
    { frames: 100 },
  );
  // Each frame has two wake-ups of 25 ms: 70 ms from edge to edge, which is 3 periods and 10 ms.
  expect(gap.lostFrames).toBe(100 * 3);
});

test("Signal and Wobble agree on the frame: what the loop does is within a fixed period, and on top of a fixed gap", () => {
  for (const framing of [{ kind: "fixedPeriod" }, { kind: "fixedGap", gapUs: 18_000 }] as const) {
    const encoding = software({ framing, loopOverheadUs: 120 });
    expect(run({ framing, loopOverheadUs: 120 }).meanPeriodUs).toBeCloseTo(makerOf(encoding, 50).periodUsAt(1500), 3);
  }
});

describe("the verdict", () => {
  test("of a program that is never late is that it stands still", () => {
    expect(verdictOf(reportOf(run({}), 4), 4, 10)).toContain("stands still");
  });

  test("of 30 µs against a deadband of 4 µs is that it twitches, and by how much", () => {
    const report = reportOf(run({ lateness: { ...exact, meanUs: 30 } }), 4);
    // Within 4 µs of the median 20.8: e^(−16.8/30) − e^(−24.8/30) = 0.134, so 0.866 are beyond.
    expect(report.twitchShare).toBeCloseTo(0.866, 1);
    expect(verdictOf(report, 4, 10)).toMatch(/twitches about 4\d\.\d times a second.*too long/);
    expect(report.histogram.reduce((sum, column) => sum + column.count, 0)).toBe(200_000);
  });
});
