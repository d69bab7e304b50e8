import fc from "fast-check";
import { expect, test } from "vitest";
import { beginStopSearch, type StopSearch, tellStopSearch } from ".";

interface Ask {
  from: number;
  way: 1 | -1;
  bound: number;
  resolution: number;
  coarse: number;
}
const ask: Ask = { from: 1500, way: 1, bound: 2500, resolution: 5, coarse: 50 };

function begin(change: Partial<Ask> = {}): StopSearch {
  const search = beginStopSearch({ ...ask, ...change });
  if (!search.ok) throw new Error(search.problem);
  return search.value;
}

/** Answers as a servo with a stop at this set point would make a person answer. */
function finish(search: StopSearch, stop: number): StopSearch {
  let current = search;
  for (let guard = 0; current.kind === "searching" && guard < 200; guard += 1)
    current = tellStopSearch(current, current.way * (current.probe - stop) > 0 ? "stopped" : "moved");
  return current;
}

test("outward in steps of 50; stopped at 1650 it goes back and halves: 1625, 1637.5, …", () => {
  let search = begin();
  expect(search.probe).toBe(1550);
  search = tellStopSearch(search, "moved");
  search = tellStopSearch(search, "moved");
  expect(search.probe).toBe(1650);
  search = tellStopSearch(search, "hums");
  expect(search).toMatchObject({ moved: 1600, stopped: 1650, probe: 1625 });
  search = tellStopSearch(search, "moved");
  expect(search.probe).toBe(1637.5);
});

test("it ends at the last set point that still moved, within its resolution of the stop", () => {
  const found = finish(begin(), 2317);
  expect(found.kind).toBe("found");
  expect(found.moved).toBeLessThanOrEqual(2317);
  expect(found.moved).toBeGreaterThan(2317 - 5);
  expect(found.probe).toBe(found.moved);
  // 17 steps of 50 outward, then 50 → 25 → 12.5 → 6.25 → 3.125.
  expect(found.steps).toBe(21);
});

test("without a stop it ends at the window and says so, never beyond", () => {
  const found = finish(begin({ bound: 2520 }), 9999);
  expect(found).toMatchObject({ kind: "found", moved: 2520, isAtBound: true });
});

test("a servo that stands at the edge of the window cannot be searched further", () => {
  expect(beginStopSearch({ ...ask, from: 2498 })).toMatchObject({ ok: false });
});

test("for any stop on either side: found within the resolution, nothing past the window, at most one coarse step past the stop", () => {
  fc.assert(
    fc.property(
      fc.double({ min: 20, max: 1400, noNaN: true }),
      fc.constantFrom<1 | -1>(1, -1),
      fc.integer({ min: 10, max: 120 }),
      (distance, way, coarse) => {
        const stop = 1500 + way * distance;
        const bound = 1500 + way * 1000;
        let search = begin({ way, coarse, bound });
        while (search.kind === "searching") {
          expect(way * (search.probe - bound)).toBeLessThanOrEqual(0);
          expect(way * (search.probe - stop)).toBeLessThanOrEqual(coarse);
          search = tellStopSearch(search, way * (search.probe - stop) > 0 ? "stopped" : "moved");
        }
        expect(way * (search.moved - stop)).toBeLessThanOrEqual(0);
        if (!search.isAtBound) expect(Math.abs(search.moved - stop)).toBeLessThanOrEqual(5);
      },
    ),
  );
});
