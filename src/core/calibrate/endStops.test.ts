import fc from "fast-check";
import { expect, test } from "vitest";
import { beginStopSearch, type StopSearch, stopFineness, tellStopSearch } from ".";

interface Ask {
  from: number;
  way: 1 | -1;
  bound: number;
  resolution: number;
  leastStep: number;
  unseen: number;
  coarse: number;
}
const ask: Ask = { from: 1500, way: 1, bound: 2500, resolution: 5, leastStep: 5, unseen: 0, coarse: 50 };

function begin(change: Partial<Ask> = {}): StopSearch {
  const search = beginStopSearch({ ...ask, ...change });
  if (!search.ok) throw new Error(search.problem);
  return search.value;
}

/** What a person sees: the horn follows as far as its stop, and a step moves it or does not. */
function look(search: StopSearch, stop: number): "moved" | "stopped" {
  const hornAt = (setPoint: number) => (search.way * (setPoint - stop) > 0 ? stop : setPoint);
  return Math.abs(hornAt(search.probe) - hornAt(search.stand)) > 0.5 ? "moved" : "stopped";
}

function finish(search: StopSearch, stop: number): StopSearch {
  let current = search;
  for (let guard = 0; current.kind !== "found" && guard < 200; guard += 1)
    current = tellStopSearch(current, look(current, stop));
  return current;
}

test("outward in steps of 50; when 1600 → 1650 does not move, the stop lies between 1550 and 1600, and is halved", () => {
  let search = begin();
  expect(search).toMatchObject({ stand: 1500, probe: 1550 });
  search = tellStopSearch(search, "moved");
  search = tellStopSearch(search, "moved");
  expect(search).toMatchObject({ safe: 1550, stand: 1600, probe: 1650 });
  search = tellStopSearch(search, "hums");
  expect(search).toMatchObject({ kind: "homing", safe: 1550, stand: 1575, probe: 1600 });
  expect(tellStopSearch(search, "moved")).toMatchObject({ safe: 1575, stand: 1587.5, probe: 1600 });
  expect(tellStopSearch(search, "stopped")).toMatchObject({ safe: 1550, stand: 1562.5, probe: 1575 });
});

test("a stop at 2317 is found within 2.5 µs, in 22 steps instead of 164 of 5 µs", () => {
  const found = finish(begin(), 2317);
  expect(found).toMatchObject({ kind: "found", isFree: false });
  expect(Math.abs(found.safe - 2317)).toBeLessThanOrEqual(2.5);
  // 17 steps out to 2350, one that does not move, then 50 → 25 → 12.5 → 6.25 → 3.125.
  expect(found.steps).toBe(22);
});

test("a step that ends against the stop does not pass for one that got there: 2483 is found, though 2450 → 2500 moved", () => {
  const found = finish(begin(), 2483);
  expect(Math.abs(found.safe - 2483)).toBeLessThanOrEqual(2.5);
  expect(found.isFree).toBe(false);
});

test("without a stop it ends at the window and says so, never beyond", () => {
  const found = finish(begin({ bound: 2520 }), 9999);
  expect(found).toMatchObject({ kind: "found", isFree: true });
  expect(found.safe).toBeGreaterThan(2514);
  expect(found.safe).toBeLessThanOrEqual(2520);
});

test("a servo that stands at the edge of the window cannot be searched further; one that never moves is found where it stands", () => {
  expect(beginStopSearch({ ...ask, from: 2498 })).toMatchObject({ ok: false });
  expect(finish(begin(), 1400)).toMatchObject({ kind: "found", safe: 1500, steps: 1 });
});

test("the last steps are never too short to be noticed, and what an eye cannot see is added in the end", () => {
  const search: StopSearch = { ...begin({ leastStep: 12 }), kind: "homing", safe: 1990, far: 2010 };
  // Halved, the step from 2000 would be 10 µs.
  expect(tellStopSearch({ ...search, stand: 1980 }, "moved")).toMatchObject({ stand: 1995, probe: 2010, far: 2010 });
  expect(tellStopSearch({ ...search, stand: 2000 }, "stopped")).toMatchObject({ stand: 1995, probe: 2007, far: 2000 });
  const seen = { ...search, isFree: false, far: 1996, stand: 1993, unseen: 3 };
  expect(tellStopSearch(seen, "moved")).toMatchObject({ kind: "found", safe: 1997.5 });
});

test("how fine to search: steps over the deadband, no finer than the board, and 0.3° of what cannot be seen", () => {
  expect(stopFineness(4, 4.88, 10)).toEqual({ resolution: 4.88, leastStep: 10, unseen: 3 });
  expect(stopFineness(1, 0.3, -10)).toEqual({ resolution: 2, leastStep: 5, unseen: 3 });
});

test("for any stop on either side: found within the resolution, never past the window, at most one coarse step past the stop", () => {
  fc.assert(
    fc.property(
      fc.double({ min: 20, max: 1400, noNaN: true }),
      fc.constantFrom<1 | -1>(1, -1),
      fc.integer({ min: 10, max: 120 }),
      (distance, way, coarse) => {
        const stop = 1500 + way * distance;
        const bound = 1500 + way * 1000;
        let search = begin({ way, coarse, bound });
        while (search.kind !== "found") {
          expect(way * (search.probe - bound)).toBeLessThanOrEqual(0);
          // The step that finds out presses from at most a step past the stop to another.
          expect(way * (search.probe - stop)).toBeLessThanOrEqual(2 * coarse + 1);
          expect(way * (search.safe - stop)).toBeLessThanOrEqual(0);
          search = tellStopSearch(search, look(search, stop));
        }
        if (!search.isFree) expect(Math.abs(search.safe - stop)).toBeLessThanOrEqual(3.1);
      },
    ),
  );
});
