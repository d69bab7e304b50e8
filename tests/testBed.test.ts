import { expect, test } from "vitest";
import { calibrate, checkAfter, lineWithin, type Outcome, randomFaults, randomTruth, scoreOf } from "./scriptedPerson";

/** A scripted person calibrates servos with random truths on boards from fine to very coarse; `npm run bench` does many more and prints the figures. */
const boards = [0.3, 1, 4.88, 20, 78.125];
const outcomes = Array.from({ length: 60 }, (_, seed) =>
  calibrate(randomTruth(seed), seed, { origin: 0, step: boards[seed % boards.length] as number }),
).filter((outcome): outcome is Outcome => typeof outcome === "object" && outcome !== null);

test("every stop lies within its stated ±, and no window that would be saved reaches it", () => {
  expect(outcomes).toHaveLength(60);
  for (const { found, stops, window } of outcomes) {
    for (const [at, stop] of found.entries())
      if (!stop.isFree)
        expect(Math.abs(stop.setPoint - (at === 0 ? stops.low : stops.high))).toBeLessThanOrEqual(stop.plusMinus + 0.5);
    // The true stops are looked up in halves of a µs.
    expect(window.low).toBeGreaterThan(stops.low - 0.5);
    expect(window.high).toBeLessThan(stops.high + 0.5);
  }
});

test("no servo is pressed against a stop for longer than 0.7 s", () => {
  expect(Math.max(...outcomes.map((outcome) => outcome.longestPressedMs))).toBeLessThanOrEqual(700);
});

test("with five points read to half a degree, angles are true to half a degree on average", () => {
  const mean = outcomes.reduce((sum, outcome) => sum + outcome.meanErrorDeg, 0) / outcomes.length;
  expect(mean).toBeLessThan(0.5);
});

test("it takes a fraction of the steps of a plain search", () => {
  const steps = outcomes.reduce((sum, outcome) => sum + outcome.steps, 0);
  const linear = outcomes.reduce((sum, outcome) => sum + outcome.linearSteps, 0);
  expect(steps / linear).toBeLessThan(0.2);
});

test("of servos whose horn slips while it is pressed, most are seen beside their mark, and no window of the others reaches a stop", () => {
  const slipping = [0.5, 1, 3].flatMap((slipDegPerS) =>
    Array.from({ length: 40 }, (_, seed) =>
      calibrate({ ...randomTruth(300 + seed), slipDegPerS }, seed, {
        origin: 0,
        step: boards[seed % boards.length] as number,
      }),
    ),
  );
  expect(slipping.filter((one) => one === "slipped").length).toBeGreaterThan(80);
  for (const outcome of slipping)
    if (typeof outcome === "object" && outcome !== null) {
      expect(outcome.window.low).toBeGreaterThan(outcome.stops.low - 0.5);
      expect(outcome.window.high).toBeLessThan(outcome.stops.high + 0.5);
    }
});

test("one without supply is not found", () => {
  expect(calibrate({ ...randomTruth(3), hasSupply: false }, 3)).toBeNull();
});

test("of 150 servos with mixed faults fewer than 2 % get a cause named that is not there, or one cleared that is; ± holds in 90 to 99 %", () => {
  const checks = Array.from({ length: 150 }, (_, seed) => {
    const faults = randomFaults(seed);
    return { faults, verdict: checkAfter(faults, seed) };
  });
  expect(checks.filter(({ faults, verdict }) => scoreOf(verdict, faults) === "wrong").length).toBeLessThan(3);
  const within = checks.flatMap(({ faults, verdict }) =>
    (["offset", "slope", "bend", "play"] as const).map((cause) => {
      const share = verdict.diagnosis?.shares[cause];
      return share ? Math.abs(share.deg - faults[cause]) <= share.plusMinusDeg : true;
    }),
  );
  expect(within.filter(Boolean).length / within.length).toBeGreaterThan(0.9);
  expect(within.filter(Boolean).length / within.length).toBeLessThan(0.99);
});

test("slope and intercept lie within their ± in 90 to 99 of 100", () => {
  const lines = Array.from({ length: 200 }, (_, seed) => lineWithin(seed)).filter((one) => one !== null);
  for (const key of ["slope", "intercept"] as const) {
    const share = lines.filter((one) => one[key]).length / lines.length;
    expect([key, share > 0.9 && share < 0.995]).toEqual([key, true]);
  }
});
