import fc from "fast-check";
import { expect, test } from "vitest";
import { beginRestSearch, type RestSearch, restOf, speedOfTaps, tellRestSearch } from ".";

const ask = { begin: 1500, low: 900, high: 2100, resolution: 1 };

/** Answers as a servo does that rests between `low` and `high`. */
function finish(low: number, high: number, change: Partial<typeof ask> = {}): RestSearch {
  let search = beginRestSearch({ ...ask, ...change });
  while (search.kind !== "found") {
    const told = tellRestSearch(search, search.probe < low || search.probe > high);
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
  expect(search.steps).toBeLessThanOrEqual(16);
});

test("it is looked for to both sides: 1500, 1508, 1492, 1516 …", () => {
  let search = beginRestSearch(ask);
  const tried: number[] = [];
  for (let answers = 0; answers < 4; answers += 1) {
    tried.push(search.probe);
    const told = tellRestSearch(search, true);
    if (told.ok) search = told.value;
  }
  expect(tried).toEqual([1500, 1508, 1492, 1516]);
});

test("for any rest of at least 8 µs within the window both edges are found to the board's step", () => {
  fc.assert(
    fc.property(fc.integer({ min: 1300, max: 1700 }), fc.integer({ min: 8, max: 60 }), (low, width) => {
      const rest = restOf(finish(low, low + width));
      expect(Math.abs((rest?.low ?? 0) - low)).toBeLessThanOrEqual(1);
      expect(Math.abs((rest?.high ?? 0) - low - width)).toBeLessThanOrEqual(1);
    }),
  );
});

test("a servo that turns everywhere is no continuous servo, or its window is too narrow", () => {
  expect(() => finish(3000, 3100, { low: 1450, high: 1520 })).toThrow("turned everywhere");
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
  expect(speedOfTaps([0, 1000, 2000, 4000, 5000])).toMatchObject({
    ok: false,
    problem: expect.stringContaining("Turn 3"),
  });
  expect(speedOfTaps([0, 1000, 2000, 2300, 3000])).toMatchObject({ ok: false });
});
