import fc from "fast-check";
import { expect, test } from "vitest";
import {
  beginRestSearch,
  type RestSearch,
  restOf,
  restSearchAfter,
  speedOfTaps,
  type Turning,
  tellRestSearch,
} from ".";

const ask = { begin: 1500, low: 900, high: 2100, grid: { origin: 0, step: 1 } };

/** Answers as a servo does that rests between `low` and `high` and turns clockwise above. */
const seenAt = (setPoint: number, low: number, high: number): Turning =>
  setPoint > high ? "clockwise" : setPoint < low ? "counter" : "rests";

function finish(low: number, high: number, change: Partial<typeof ask> = {}): RestSearch {
  let search = beginRestSearch({ ...ask, ...change });
  while (search.kind !== "found" && search.kind !== "none") {
    const told = tellRestSearch(search, seenAt(search.probe, low, high));
    if (!told.ok) throw new Error(told.problem);
    search = told.value;
  }
  return search;
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
});

test("one that turns the same way everywhere rests outside its window", () => {
  expect(() => finish(3000, 3100)).toThrow("turned the same way everywhere");
  expect(() => finish(1500, 3100)).toThrow("turned only one way");
  expect(() => finish(100, 200)).toThrow("turned the same way everywhere");
});

test("a slip that cannot be is said at once, and an answer is taken back by leaving it out", () => {
  const answers: Turning[] = [];
  let search = beginRestSearch(ask);
  while (search.kind !== "upper") {
    answers.push(seenAt(search.probe, 1513, 1531));
    const told = restSearchAfter(ask, answers);
    if (!told.ok) throw new Error(told.problem);
    search = told.value;
  }
  expect(tellRestSearch(search, "counter")).toMatchObject({ ok: false, problem: expect.stringContaining("is a slip") });
  expect(restSearchAfter(ask, [...answers, "rests"].slice(0, -1) as Turning[])).toEqual({ ok: true, value: search });
});

test("whatever is answered, it ends or says why not, and never sends anything outside its window", () => {
  const seen = fc.constantFrom<Turning>("clockwise", "counter", "rests");
  fc.assert(
    fc.property(
      fc.array(seen, { minLength: 80, maxLength: 80 }),
      fc.constantFrom(0.3, 1, 4.88, 78),
      fc.integer({ min: 850, max: 2150 }),
      (answers, step, begin) => {
        let search = beginRestSearch({ ...ask, begin, grid: { origin: 3, step } });
        for (const answer of answers) {
          expect(search.probe).toBeGreaterThanOrEqual(900);
          expect(search.probe).toBeLessThanOrEqual(2100);
          const told = tellRestSearch(search, answer);
          if (!told.ok) return;
          search = told.value;
        }
        expect(["found", "none"]).toContain(search.kind);
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
