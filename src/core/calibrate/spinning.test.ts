import fc from "fast-check";
import { expect, test } from "vitest";
import {
  beginRestSearch,
  type RestAnswer,
  type RestSearch,
  restOf,
  restSearchAfter,
  speedOfTaps,
  type Turning,
} from ".";

const ask = { begin: 1500, low: 900, high: 2100, grid: { origin: 0, step: 1 } };

/** Answers as a servo does that rests between `low` and `high` and turns clockwise above. */
const seenAt = (setPoint: number, low: number, high: number): Turning =>
  setPoint > high ? "clockwise" : setPoint < low ? "counter" : "rests";

interface Wrong {
  readonly at: number;
  readonly seen: Turning;
}

/** The search of one who sees what the servo does, but for what is wrong. */
function finish(low: number, high: number, change: Partial<typeof ask> = {}, wrong: readonly Wrong[] = []): RestSearch {
  const answers: RestAnswer[] = [];
  for (;;) {
    const search = restSearchAfter({ ...ask, ...change }, answers);
    if (!search.ok) throw new Error(search.problem);
    if (answers.length > 60) throw new Error("It does not end.");
    const { kind, probe } = search.value;
    if (kind === "found" || kind === "none") return search.value;
    const slip = wrong.find(({ at }) => at === answers.length);
    answers.push({ probe, seen: slip?.seen ?? seenAt(probe, low, high) });
  }
}

test("a crank that rests from 1513 to 1531 has its neutral at 1522, found in 16 answers or fewer", () => {
  const search = finish(1513, 1531);
  const rest = restOf(search);
  expect(Math.abs((rest?.low ?? 0) - 1513)).toBeLessThanOrEqual(0.5);
  expect(Math.abs((rest?.high ?? 0) - 1531)).toBeLessThanOrEqual(0.5);
  expect(Math.abs((rest?.neutral ?? 0) - 1522)).toBeLessThanOrEqual(0.5);
  expect(rest?.plusMinus).toBe(0.5);
  expect(search.steps).toBeLessThanOrEqual(16);
});

test("for any rest, however narrow, on any board: both edges within half a step, or the board has no place in it", () => {
  fc.assert(
    fc.property(
      fc.double({ min: 1250, max: 1750, noNaN: true }),
      fc.double({ min: 0, max: 60, noNaN: true }),
      fc.constantFrom(0.5, 1, 4.88, 20),
      fc.double({ min: 0, max: 20, noNaN: true }),
      (low, width, step, origin) => {
        const grid = { origin, step };
        const search = finish(low, low + width, { grid });
        const rest = restOf(search);
        const fits = Math.floor((low + width - origin) / step) >= Math.ceil((low - origin) / step);
        expect(rest !== null).toBe(fits);
        if (!rest) {
          expect(search.turnHigh - search.turnLow).toBeCloseTo(step, 6);
          return;
        }
        expect(Math.abs(rest.low - low)).toBeLessThanOrEqual(step / 2 + 1e-6);
        expect(Math.abs(rest.high - low - width)).toBeLessThanOrEqual(step / 2 + 1e-6);
        expect(rest.plusMinus).toBeCloseTo(step / 2, 6);
      },
    ),
  );
});

test("a rest of 4 µs on a board of 1 µs is found wherever it lies; it was stepped over half the time", () => {
  for (let low = 1440; low < 1560; low += 1) expect(restOf(finish(low, low + 4))?.low).toBe(low - 0.5);
});

test("one without supply rests everywhere and is not found: it was never seen to turn", () => {
  expect(() => finish(0, 3000)).toThrow("Is its supply on");
  // On some grids the end of the window lay a rounding further off than the last look, and the search looked for ever.
  for (let begin = 1300; begin < 1700; begin += 1)
    for (const step of [0.3, 0.305, 4.88])
      expect(() => finish(0, 3000, { begin, grid: { origin: 3, step } })).toThrow("Is its supply on");
});

test("one that turns the same way everywhere rests outside its window", () => {
  expect(() => finish(3000, 3100)).toThrow("turned the same way everywhere");
  expect(() => finish(1500, 3100)).toThrow("turned only one way");
  expect(() => finish(100, 200)).toThrow("turned the same way everywhere");
});

test("with any one answer wrong both edges are found, off by no more than four steps; and it turns the same way above", () => {
  fc.assert(
    fc.property(
      fc.double({ min: 1300, max: 1700, noNaN: true }),
      fc.double({ min: 5, max: 60, noNaN: true }),
      fc.constantFrom(0.305, 1, 4.88),
      fc.nat({ max: 24 }),
      fc.constantFrom<Turning>("clockwise", "counter", "rests"),
      (low, width, step, at, seen) => {
        const rest = restOf(finish(low, low + width, { grid: { origin: 0, step } }, [{ at, seen }]));
        const most = 4 * Math.max(1, step) + step;
        expect(Math.abs((rest?.low ?? 0) - low)).toBeLessThanOrEqual(most);
        expect(Math.abs((rest?.high ?? 0) - low - width)).toBeLessThanOrEqual(most);
      },
    ),
    { numRuns: 3000 },
  );
});

test("one who saw the wrong way at the second place is asked again, and the crank's rest is found all the same", () => {
  const search = finish(1513, 1531, {}, [{ at: 1, seen: "clockwise" }]);
  expect(restOf(search)).toMatchObject({ low: 1512.5, high: 1531.5 });
  expect(search.steps).toBeLessThanOrEqual(26);
});

test("answers that cannot all be right are asked for again, the doubtful place first; said twice, both are named", () => {
  const answers: RestAnswer[] = [
    { probe: 1560, seen: "clockwise" },
    { probe: 1440, seen: "counter" },
    { probe: 1500, seen: "rests" },
    { probe: 1530, seen: "counter" },
  ];
  const again = restSearchAfter(ask, answers);
  expect(again).toMatchObject({ ok: true, value: { kind: "again", probe: 1530 } });
  const sure: RestAnswer[] = [...answers, { probe: 1530, seen: "counter" }];
  expect(restSearchAfter(ask, sure)).toMatchObject({ ok: true, value: { kind: "again", probe: 1500 } });
  expect(restSearchAfter(ask, [...sure, { probe: 1500, seen: "counter" }])).toMatchObject({
    ok: true,
    value: { kind: "between", turnLow: 1530, turnHigh: 1560 },
  });
  const insisted: RestAnswer[] = [...sure, { probe: 1500, seen: "rests" }, ...answers.slice(0, 1)];
  const problem = expect.stringMatching(/do not go together.*at 1530.0 µs it was seen to turn anticlockwise/);
  expect(restSearchAfter(ask, insisted)).toMatchObject({ ok: false, problem });
});

test("an answer is taken back by leaving it out", () => {
  const one: RestAnswer = { probe: 1560, seen: "clockwise" };
  expect(restSearchAfter(ask, [one].slice(0, -1))).toEqual(beginRestSearch(ask));
});

test("whatever is answered, it ends or says why not, and never sends anything outside its window", () => {
  const seen = fc.constantFrom<Turning>("clockwise", "counter", "rests");
  fc.assert(
    fc.property(
      fc.array(seen, { minLength: 80, maxLength: 80 }),
      fc.constantFrom(0.3, 1, 4.88, 78),
      fc.integer({ min: 850, max: 2150 }),
      (all, step, begin) => {
        const answers: RestAnswer[] = [];
        for (const one of all) {
          const search = restSearchAfter({ ...ask, begin, grid: { origin: 3, step } }, answers);
          if (!search.ok) return;
          const { kind, probe } = search.value;
          if (kind === "found" || kind === "none") return;
          expect(probe).toBeGreaterThanOrEqual(900);
          expect(probe).toBeLessThanOrEqual(2100);
          answers.push({ probe, seen: one });
        }
        throw new Error("It did not end.");
      },
    ),
  );
});

test("eleven taps in 12.4 s are ten turns: 290 °/s, give or take 2.7", () => {
  const counted = speedOfTaps(Array.from({ length: 11 }, (_, at) => 5000 + at * 1240));
  if (!counted.ok) throw new Error(counted.problem);
  expect(counted.value).toMatchObject({ turns: 10, seconds: 12.4 });
  expect(counted.value.degPerS).toBeCloseTo(290.32, 2);
  // 290.32 × 0.08 s × √2 / 12.4 s
  expect(counted.value.errorDegPerS).toBeCloseTo(2.65, 2);
});

test("one tap is no turn; a turn that was missed, or tapped twice, is pointed out", () => {
  expect(speedOfTaps([1000])).toMatchObject({ ok: false });
  // One of two gaps is a missed turn: nothing tells which is the true one.
  expect(speedOfTaps([0, 1000, 3000])).toMatchObject({ ok: false });
  // Half of the turns were missed: whatever is usual, the others are not.
  expect(speedOfTaps([0, 2000, 3000, 5000, 6000, 8000])).toMatchObject({ ok: false });
  expect(speedOfTaps([0, 1000, 2000, 4000, 5000])).toMatchObject({
    ok: false,
    problem: expect.stringContaining("Turn 3"),
  });
  expect(speedOfTaps([0, 1000, 2000, 2300, 3000])).toMatchObject({ ok: false });
});
