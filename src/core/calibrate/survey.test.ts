import { faultlessTruth, SimServo, seededRandom } from "@core/sim";
import { expect, test } from "vitest";
import { bestLine, Survey } from ".";

/** 7.4 µs per degree about 90° at 1520 µs, stops at 10° and 170°: 928 and 2112 µs. Its wire reads 118 + 4.36 counts per degree. */
const truth = {
  ...faultlessTruth,
  cardId: "grip",
  centre: 1520,
  perDeg: 7.4,
  stopLowDeg: 10,
  stopHighDeg: 170,
  deadband: 5,
  speedDegPerS: 360,
  backlashDeg: 0.8,
  feedback: { atZeroDeg: 118, perDeg: 4.36, noise: 1.2 },
};
const ask = { centre: 1500, window: { low: 500, high: 2500 }, step: 10, glidePerS: 900 };

/** What an open gate lets through. */
const open = (setPoint: number) => ({ setPoint, sent: setPoint });

/**
 * Runs it on a simulated servo, with a frame of 20 ms between asking and reading, through a gate that lets so many set points per second through, onto
 * a board that knows only every so manieth. Readings may be handed on late, each by a time of its own, in their order. A computer that stands still for a while finds the servo no further than 50 ms later, as the bench does.
 */
function run(
  change: Partial<typeof truth> = {},
  onTick: (survey: Survey, nowMs: number) => void = () => {},
  { perS = Number.POSITIVE_INFINITY, grain = 0, from = 1500, stallMs = (): number => 0, lateMs = (): number => 0 } = {},
) {
  const servo = new SimServo({ ...truth, ...change });
  const survey = new Survey(ask, from);
  let passed = from;
  let sent = from;
  let largestStep = 0;
  let pressedMs = 0;
  let longestPressedMs = 0;
  let nowMs = 0;
  let reading = Number.NaN;
  let currentMa = Number.NaN;
  const underway: { readonly dueMs: number; readonly reading: number; readonly currentMa: number }[] = [];
  for (let dtMs = 20; !survey.isOver && nowMs < 700_000; nowMs += dtMs) {
    const wish = survey.step(nowMs, reading, currentMa, { setPoint: passed, sent });
    dtMs = 20 + stallMs();
    const seenMs = Math.min(dtMs, 50);
    const most = (perS * seenMs) / 1000;
    const next = passed + Math.max(-most, Math.min(most, wish - passed));
    largestStep = Math.max(largestStep, Math.abs(next - passed));
    passed = next;
    sent = grain > 0 ? Math.round(passed / grain) * grain : passed;
    onTick(survey, nowMs);
    for (let ms = 0; ms < seenMs; ms += 5) {
      servo.step(5, sent);
      pressedMs = servo.isStalled ? pressedMs + 5 : 0;
      longestPressedMs = Math.max(longestPressedMs, pressedMs);
    }
    underway.push({ dueMs: nowMs + lateMs(), reading: servo.readSensor(), currentMa: servo.readCurrentMa() });
    while ((underway[0]?.dueMs ?? Number.POSITIVE_INFINITY) <= nowMs)
      ({ reading, currentMa } = underway.shift() as (typeof underway)[number]);
  }
  return { survey, report: survey.report, longestPressedMs, largestStep, passed, nowMs };
}

test("both stops are found within the deadband, gently and in under a minute, and nine places are read", () => {
  const { report, longestPressedMs, nowMs } = run();
  expect(report.phase).toBe("done");
  expect(Math.abs((report.high?.setPoint ?? 0) - 2112)).toBeLessThan(5.5);
  expect(Math.abs((report.low?.setPoint ?? 0) - 928)).toBeLessThan(5.5);
  expect(longestPressedMs).toBeLessThan(400);
  expect(nowMs).toBeLessThan(60_000);
  expect(report.places).toHaveLength(9);
  const line = bestLine(report.places.map((one) => ({ angleDeg: (one.reading - 118) / 4.36, setPoint: one.setPoint })));
  if (!line.ok) throw new Error(line.problem);
  expect(line.value.slopePerDeg).toBeCloseTo(7.4, 1);
  expect(report.highestMa).toBeGreaterThan(400);
});

test("on a computer that stands still now and then, behind a slow gate, the stops are found as well", () => {
  const random = seededRandom(20);
  const stallMs = () => (random() < 0.3 ? random() * 200 : 0);
  for (let runs = 0; runs < 30; runs += 1) {
    const { report } = run({}, () => {}, { perS: 300 + 50 * runs, stallMs });
    expect(report.phase).toBe("done");
    expect(Math.abs((report.high?.setPoint ?? 0) - 2112)).toBeLessThan(8);
    expect(Math.abs((report.low?.setPoint ?? 0) - 928)).toBeLessThan(8);
  }
});

test.each([
  ["always by 160 ms", () => () => 160],
  ["by up to 160 ms, at random", (random: () => number) => () => random() * 160],
  ["by up to 300 ms, at random", (random: () => number) => () => random() * 300],
])("readings that are handed on late, %s: the stops are found as well, and nothing is pressed for long", (_, late) => {
  for (let seed = 1; seed <= 20; seed += 1) {
    const { report, longestPressedMs } = run({}, () => {}, { lateMs: late(seededRandom(seed)) });
    expect([seed, report.phase]).toEqual([seed, "done"]);
    expect([seed, Math.abs((report.high?.setPoint ?? 0) - 2112) < 8]).toEqual([seed, true]);
    expect([seed, Math.abs((report.low?.setPoint ?? 0) - 928) < 8]).toEqual([seed, true]);
    expect(longestPressedMs).toBeLessThan(2000);
  }
});

test("a servo without a stop in its window is free to its edges", () => {
  const { report } = run({ stopLowDeg: -60, stopHighDeg: 240, feedback: { atZeroDeg: 300, perDeg: 2, noise: 1 } });
  expect(report.low).toEqual({ setPoint: 500, isFree: true });
  expect(report.high).toEqual({ setPoint: 2500, isFree: true });
});

test("a servo that turns the other way, and one that bends, are found as well", () => {
  for (const change of [{ perDeg: -7.4 }, { bend: 0.04 }]) {
    const { report, longestPressedMs } = run(change);
    expect(report.phase).toBe("done");
    expect(report.low?.isFree).toBe(false);
    expect(longestPressedMs).toBeLessThan(500);
  }
});

test("without an answer for 0.6 s it ends and goes back towards the middle", () => {
  const survey = new Survey(ask, 1500);
  for (let ms = 0; ms < 3000; ms += 20) survey.step(ms, 500 + ms / 100, 10, open(1500));
  expect(survey.isOver).toBe(false);
  for (let ms = 3000; ms < 4200; ms += 20) survey.step(ms, Number.NaN, Number.NaN, open(1500));
  expect(survey.report).toMatchObject({ phase: "ended", problem: expect.stringContaining("stopped answering") });
});

test("a wire that reads always the same is told from a servo at its stop", () => {
  const { report } = run({ feedback: { atZeroDeg: 400, perDeg: 1e-9, noise: 0 } });
  expect(report).toMatchObject({ phase: "ended", problem: expect.stringContaining("feedback wired") });
});

test("it can be stopped at any moment, and goes back softly from where it stands", () => {
  let at = 0;
  const { report, passed, largestStep } = run({}, (running, nowMs) => {
    if (nowMs !== 6000) return;
    at = running.report.outward.at(-1)?.setPoint ?? 0;
    running.end("It was stopped.");
  });
  expect(report).toMatchObject({ phase: "ended", problem: "It was stopped." });
  expect(at).toBeGreaterThan(1600);
  expect(passed).toBeLessThan(at - 50);
  expect(largestStep).toBeLessThanOrEqual(18 + 1e-9);
});

test.each<[string, Partial<typeof truth>, Parameters<typeof run>[2]]>([
  ["a joint whose speed limit is far below its glide", {}, { perS: 80 }],
  ["a servo that is ten times slower than its card says", { speedDegPerS: 12 }, {}],
  ["both", { speedDegPerS: 20 }, { perS: 100 }],
  ["a board that knows only every 26th microsecond", {}, { grain: 26 }],
  ["a servo that stands far from the middle", {}, { from: 1950 }],
])("it finds the true stops of %s, and never leaps", (_, change, gate) => {
  const { report, largestStep, longestPressedMs } = run(change, undefined, gate);
  expect(report).toMatchObject({ phase: "done", problem: "" });
  const within = 6 + (gate?.grain ?? 0);
  expect(Math.abs((report.high?.setPoint ?? 0) - 2112)).toBeLessThan(within);
  expect(Math.abs((report.low?.setPoint ?? 0) - 928)).toBeLessThan(within);
  // 900 µs a second glided, 10 µs stepped.
  expect(largestStep).toBeLessThanOrEqual(18 + 1e-9);
  expect(longestPressedMs).toBeLessThan(1000);
});

test("sticky, noisy and dull servos of all speeds: no stop is made up of a sticking, and each is found within 15 µs", () => {
  for (let seed = 0; seed < 40; seed += 1) {
    const random = seededRandom(seed * 7 + 3);
    const between = (low: number, high: number) => low + random() * (high - low);
    const change = {
      stopLowDeg: between(5, 25),
      stopHighDeg: between(150, 172),
      deadband: between(1, 14),
      speedDegPerS: between(60, 500),
      stictionDeg: between(0, 2),
      feedback: { atZeroDeg: 118, perDeg: 4.36, noise: between(0.3, 4) },
    };
    const { report } = run(change);
    const at = (deg: number) => 1520 + 7.4 * (deg - 90);
    expect([seed, report.phase]).toEqual([seed, "done"]);
    expect([seed, Math.abs((report.low?.setPoint ?? 0) - at(change.stopLowDeg)) < 15]).toEqual([seed, true]);
    expect([seed, Math.abs((report.high?.setPoint ?? 0) - at(change.stopHighDeg)) < 15]).toEqual([seed, true]);
  }
});
