import fc from "fast-check";
import { expect, test } from "vitest";
import {
  beginStopSearch,
  type StopAnswer,
  type StopAsk,
  type StopSearch,
  stopForCard,
  stopOf,
  stopSearchAfter,
  tellStopSearch,
  windowInside,
} from ".";

type Edge = { inside: number; isFree: boolean };

const ask: StopAsk = {
  from: 1500,
  way: 1,
  bound: 2500,
  grid: { origin: 0, step: 1 },
  deadband: 2,
  perDeg: 0.001,
  coarse: 50,
};

function begin(change: Partial<StopAsk> = {}): StopSearch {
  const search = beginStopSearch({ ...ask, ...change });
  if (!search.ok) throw new Error(search.problem);
  return search.value;
}

/** What a person sees: the horn follows as far as its stop, but not by less than it notices. */
function look({ way, stand, probe }: StopSearch, stop: number, deadband = 0.5): "moved" | "stopped" {
  if (Math.abs(probe - stand) < deadband) return "stopped";
  const hornAt = (setPoint: number) => (way * (setPoint - stop) > 0 ? stop : setPoint);
  return Math.abs(hornAt(probe) - hornAt(stand)) > 0.01 ? "moved" : "stopped";
}

function finish(search: StopSearch, stop: number, deadband?: number): StopSearch {
  let current = search;
  for (let guard = 0; current.kind !== "found" && current.kind !== "dead" && guard < 200; guard += 1)
    current = tellStopSearch(current, look(current, stop, deadband));
  return current;
}

test("first a step that it must notice; outward in 50; when 1600 → 1650 does not move, the stop lies in 1550…1600, which is halved", () => {
  let search = begin();
  expect(search).toMatchObject({ kind: "trying", stand: 1500, probe: 1505 });
  search = tellStopSearch(search, "moved");
  expect(search).toMatchObject({ kind: "trying", stand: 1500, probe: 1505 });
  search = tellStopSearch(search, "moved");
  expect(search).toMatchObject({ kind: "outward", stand: 1500, probe: 1550 });
  search = tellStopSearch(tellStopSearch(search, "moved"), "moved");
  expect(search).toMatchObject({ safe: 1550, stand: 1600, probe: 1650 });
  search = tellStopSearch(search, "hums");
  expect(search).toMatchObject({ kind: "homing", safe: 1550, stand: 1575, probe: 1600 });
  expect(tellStopSearch(search, "moved")).toMatchObject({ safe: 1575, stand: 1587, probe: 1600 });
  expect(tellStopSearch(search, "stopped")).toMatchObject({ safe: 1550, stand: 1562, probe: 1575 });
});

test("a stop at 2317 is found within its ±1, in 26 answers instead of 164 steps of 5 µs", () => {
  const search = finish(begin(), 2317);
  const found = stopOf(search);
  expect(found).toMatchObject({ isFree: false, inside: 2316 });
  expect(Math.abs((found?.setPoint ?? 0) - 2317)).toBeLessThanOrEqual(found?.plusMinus ?? 0);
  // Two to try, 17 steps out to 2350, one that does not move, then 50 → 25 → 12 → 6 → 3 or 4 → 2, and one that is shown again.
  expect(search.steps).toBeLessThanOrEqual(26);
});

test("a step that ends against the stop does not pass for one that got there: 2483 is found, though 2450 → 2500 moved", () => {
  expect(Math.abs((stopOf(finish(begin(), 2483))?.setPoint ?? 0) - 2483)).toBeLessThanOrEqual(1);
});

test("without a stop it ends at the window and says so, never beyond", () => {
  const found = stopOf(finish(begin({ bound: 2520 }), 9999));
  expect(found).toMatchObject({ isFree: true, setPoint: 2520 });
  // The end of a window is not kept as a stop: none was seen.
  expect(found && stopForCard(found)).toBeNull();
});

test("one that never moves is not found: no supply, or another channel", () => {
  const search = finish(begin(), 1400);
  expect(search).toMatchObject({ kind: "dead" });
  expect(stopOf(search)).toBeNull();
  // 5, 10, 20, 40, 80, 160, 320 µs: four times the coarse step, and it stands still.
  expect(search.steps).toBe(7);
});

test("a servo that stands at the edge of the window cannot be searched further", () => {
  expect(beginStopSearch({ ...ask, from: 2498 })).toMatchObject({ ok: false });
});

test("a deadband of 17 µs where the card says 2: the step it notices is found first, and no stop is made up of what it did not notice", () => {
  const search = finish(begin(), 2317, 17);
  expect(search.leastStep).toBe(20);
  const found = stopOf(search);
  expect(Math.abs((found?.setPoint ?? 0) - 2317)).toBeLessThanOrEqual(found?.plusMinus ?? 0);
});

test.each([
  ["whole per cents of a 50 Hz frame", 200, 200],
  ["8 bits of a 50 Hz frame", 78.125, 78.125],
])(
  "on a board of %s the stop is found on its own grid, and ± is half a step; it ended 300 to 880 µs short",
  (_, step, least) => {
    for (const stop of [1805, 2099, 2317, 2390]) {
      const search = finish(begin({ grid: { origin: 0, step }, bound: 2500, from: 1500 }), stop);
      const found = stopOf(search);
      expect(search.leastStep).toBeCloseTo(least, 9);
      expect(found?.inside).toBeLessThanOrEqual(stop);
      expect(found?.inside).toBeGreaterThan(stop - step - 1e-6);
      expect(Math.abs((found?.setPoint ?? 0) - stop)).toBeLessThanOrEqual((found?.plusMinus ?? 0) + 0.01);
    }
  },
);

test("an answer is taken back by leaving it out; a step to a number of one's own is kept with its answer", () => {
  const answers: StopAnswer[] = [];
  let search = begin();
  while (search.kind !== "homing") {
    const answer = { probe: search.probe, seen: look(search, 1822) };
    answers.push(answer);
    search = tellStopSearch(search, answer.seen);
  }
  expect(stopSearchAfter(ask, answers)).toEqual({ ok: true, value: search });
  expect(stopSearchAfter(ask, answers.slice(0, -1))).toMatchObject({ value: { kind: "outward", probe: 1900 } });
  const own = [...answers.slice(0, 4), { probe: 1700, seen: "moved" as const }];
  expect(stopSearchAfter(ask, own)).toMatchObject({ value: { safe: 1600, stand: 1700, probe: 1750 } });
});

test("for any stop, deadband and board: what is kept as inside is short of it, it lies within its ±, and a window inside never reaches it", () => {
  fc.assert(
    fc.property(
      fc.double({ min: 20, max: 1400, noNaN: true }),
      fc.constantFrom<1 | -1>(1, -1),
      fc.double({ min: 0.5, max: 60, noNaN: true }),
      fc.constantFrom(0.3, 1, 4.88, 20, 78.125, 200),
      fc.integer({ min: 10, max: 120 }),
      (distance, way, deadband, step, coarse) => {
        const stop = 1500 + way * distance;
        const bound = 1500 + way * 1000;
        let search = begin({ way, coarse, bound, grid: { origin: 3, step } });
        fc.pre(way * (stop - search.stand) > 0);
        for (let guard = 0; guard < 300 && search.kind !== "found" && search.kind !== "dead"; guard += 1) {
          expect(way * (search.probe - bound)).toBeLessThanOrEqual(0);
          expect(way * (search.safe - stop)).toBeLessThanOrEqual(0);
          search = tellStopSearch(search, look(search, stop, deadband));
        }
        const found = stopOf(search);
        if (!found) return;
        if (found.isFree) expect(way * (found.setPoint - stop)).toBeLessThanOrEqual(search.leastStep);
        else {
          expect(way * (found.inside - stop)).toBeLessThanOrEqual(0);
          expect(Math.abs(found.setPoint - stop)).toBeLessThanOrEqual(found.plusMinus + 0.02);
          const inside = windowInside({ ...found, isFree: false }, { ...found, isFree: false }, 2, {
            low: 0,
            high: 3000,
          });
          expect(way * ((way > 0 ? inside.high : inside.low) - stop)).toBeLessThan(0);
        }
      },
    ),
  );
});

test("the first step out that is not seen to move, though it did: the answers after it are all the same, it is shown again, and the search goes on outward", () => {
  let search = begin();
  while (search.stand !== 1600) search = tellStopSearch(search, "moved");
  search = tellStopSearch(search, "stopped");
  while (search.kind === "homing") search = tellStopSearch(search, "moved");
  expect(search).toMatchObject({ kind: "again", stand: 1600, probe: 1605 });
  expect(stopOf(search)).toBeNull();
  expect(tellStopSearch(search, "stopped")).toMatchObject({ kind: "found", far: 1600, isFree: false });
  const goesOn = tellStopSearch(search, "moved");
  expect(goesOn).toMatchObject({ kind: "outward", safe: 1600, stand: 1605, probe: 1655, isFree: true });
  expect(Math.abs((stopOf(finish(goesOn, 2317))?.setPoint ?? 0) - 2317)).toBeLessThanOrEqual(1);
});

test("a step seen to move that did not: what is believed to be free is shown again, and given up", () => {
  let search = begin();
  // The stop is at 1580: the step from 1600 did not move, and was said to.
  while (search.stand !== 1600) search = tellStopSearch(search, "moved");
  search = tellStopSearch(search, "moved");
  while (search.kind !== "again") search = tellStopSearch(search, look(search, 1580));
  expect(search).toMatchObject({ stand: 1600, probe: 1605 });
  search = tellStopSearch(search, "stopped");
  expect(search).toMatchObject({ kind: "homing", safe: 1550, far: 1600 });
  expect(Math.abs((stopOf(finish(search, 1580))?.setPoint ?? 0) - 1580)).toBeLessThanOrEqual(1);
});

test("whichever one answer is wrong, the stop is off by four times what is wanted at most", () => {
  fc.assert(
    fc.property(
      fc.double({ min: 20, max: 1400, noNaN: true }),
      fc.constantFrom<1 | -1>(1, -1),
      fc.double({ min: 0.5, max: 60, noNaN: true }),
      fc.constantFrom(0.3, 1, 4.88, 20),
      fc.integer({ min: 10, max: 120 }),
      fc.integer({ min: 0, max: 60 }),
      (distance, way, deadband, step, coarse, wrongAt) => {
        const stop = 1500 + way * distance;
        let search = begin({ way, coarse, bound: 1500 + way * 1000, grid: { origin: 3, step } });
        for (let at = 0; at < 300 && search.kind !== "found" && search.kind !== "dead"; at += 1) {
          const seen = look(search, stop, deadband);
          search = tellStopSearch(search, at === wrongAt ? (seen === "moved" ? "stopped" : "moved") : seen);
        }
        const found = stopOf(search);
        // Near the end of its window nothing can be asked once more: the step would leave it.
        if (!found || found.isFree || way * (search.bound - stop) < 2 * search.leastStep) return;
        expect(Math.abs(found.setPoint - stop)).toBeLessThanOrEqual(found.plusMinus + 4 * Math.max(2, step) + 0.01);
      },
    ),
    { numRuns: 20_000 },
  );
});

test("a window that was drawn in while the search went on is not widened by what was found", () => {
  const [low, high] = [540, 2440].map((inside) => ({ inside, isFree: false })) as [Edge, Edge];
  expect(windowInside(low, high, 4, { low: 500, high: 2500 })).toEqual({ low: 544, high: 2436 });
  expect(windowInside(low, high, 4, { low: 900, high: 2100 })).toEqual({ low: 900, high: 2100 });
  const free = { inside: 520, isFree: true };
  expect(windowInside(free, { inside: 2480, isFree: true }, 4, { low: 500, high: 2500 })).toEqual({
    low: 520,
    high: 2480,
  });
  // Found by the bed: pressing the one stop had brought the other from outside the window to 13 µs inside it.
  expect(windowInside(free, high, 4, { low: 500, high: 2500 }).low).toBe(524);
});

test("whatever is answered, it ends, and never asks for anything outside its window or finer than the board", () => {
  const seen = fc.constantFrom<"moved" | "stopped" | "hums">("moved", "moved", "stopped", "hums");
  fc.assert(
    fc.property(
      fc.array(seen, { minLength: 150, maxLength: 150 }),
      fc.constantFrom<1 | -1>(1, -1),
      fc.constantFrom(0.3, 1, 4.88, 78.125, 200),
      fc.double({ min: 1520, max: 2500, noNaN: true }),
      fc.double({ min: 0, max: 300, noNaN: true }),
      (answers, way, step, end, deadband) => {
        const bound = way > 0 ? end : 3000 - end;
        const begun = beginStopSearch({ ...ask, way, bound, grid: { origin: 7, step }, deadband });
        if (!begun.ok) return;
        let search = begun.value;
        // The worst of all is looked at once: a look at each took nine tenths of the time.
        let [outsideBy, besideGridBy] = [0, 0];
        for (const answer of answers) {
          const { stand, probe, safe } = search;
          outsideBy = Math.max(outsideBy, way * (stand - bound), way * (probe - bound), way * (safe - bound));
          const steps = (probe - 7) / step;
          besideGridBy = Math.max(besideGridBy, Math.abs(steps - Math.round(steps)));
          search = tellStopSearch(search, answer);
        }
        expect(outsideBy).toBeLessThan(1e-6);
        expect(besideGridBy).toBeLessThan(1e-6);
        expect(["found", "dead"]).toContain(search.kind);
      },
    ),
    { numRuns: 2000 },
  );
});
