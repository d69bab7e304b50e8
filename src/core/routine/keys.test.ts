import type { Key, Lane } from "@core/project";
import fc from "fast-check";
import { expect, test } from "vitest";
import { alsoChosen, copiedKeys, keysWith, keysWithin, keysWithout, shiftedKeys } from ".";

const key = (atMs: number, target = 0): Key => ({ atMs, target, shape: "line" });
const lane = (jointId: string, ...keys: Key[]): Lane => ({ jointId, mode: "replace", keys });
const lanes = [lane("a", key(100, 1), key(200, 2), key(300, 3)), lane("b", key(50, 9))];
const at = (jointId: string, atMs: number) => ({ jointId, atMs });
const same = (_: string, target: number) => target;

test("two keys of two lanes move by 100 ms; the one that is landed on gives way", () => {
  const shifted = shiftedKeys(lanes, [at("a", 200), at("b", 50)], 100, (_, target) => target + 10);
  expect(shifted.lanes).toEqual([
    { jointId: "a", keys: [key(100, 1), key(300, 12)] },
    { jointId: "b", keys: [key(150, 19)] },
  ]);
  expect(shifted.chosen).toEqual([at("a", 300), at("b", 150)]);
});

test("keys pass others and stay in the order of time; none goes before 0, and they keep their distances", () => {
  expect(shiftedKeys(lanes, [at("a", 100)], 150, same).lanes[0]?.keys.map((one) => one.atMs)).toEqual([200, 250, 300]);
  const back = shiftedKeys(lanes, [at("a", 100), at("a", 300)], -500, same);
  expect(back.chosen.map((one) => one.atMs)).toEqual([0, 200]);
});

test("taken away, they leave the others; a lane without chosen keys is not touched", () => {
  expect(keysWithout(lanes, [at("a", 100), at("a", 300)])).toEqual([{ jointId: "a", keys: [key(200, 2)] }]);
});

test("a frame takes the keys of the lanes it crosses, from edge to edge, drawn either way", () => {
  const both = new Set(["a", "b"]);
  expect(keysWithin(lanes, both, 50, 200)).toEqual([at("a", 100), at("a", 200), at("b", 50)]);
  expect(keysWithin(lanes, both, 200, 50)).toEqual(keysWithin(lanes, both, 50, 200));
  expect(keysWithin(lanes, new Set(["b"]), 0, 1000)).toEqual([at("b", 50)]);
  expect(keysWithin(lanes, new Set(["c"]), 0, 1000)).toEqual([]);
});

test("a second frame adds to the first, and no key is chosen twice", () => {
  const chosen = [at("a", 200), at("b", 50)];
  expect(alsoChosen(chosen, [at("b", 50), at("a", 50), at("a", 300)])).toEqual([...chosen, at("a", 50), at("a", 300)]);
});

test("of thousands of chosen keys in a long lane each moves, and those between stay", () => {
  const long = lane("a", ...Array.from({ length: 20_000 }, (_, index) => key(index * 20, index)));
  const even = keysWithin([long], new Set(["a"]), 0, 400_000).filter(({ atMs }) => atMs % 40 === 0);
  const [after] = shiftedKeys([long], even, 10, same).lanes;
  expect(even).toHaveLength(10_000);
  expect(after?.keys.slice(0, 4).map(({ atMs, target }) => [atMs, target])).toEqual([
    [10, 0],
    [20, 1],
    [50, 2],
    [60, 3],
  ]);
});

test("copied and pasted, the first of them stands at the cursor, in the lane of its joint", () => {
  const copied = copiedKeys(lanes, [at("a", 200), at("b", 50)]);
  const pasted = keysWith(lanes, copied, 250);
  expect(pasted.lanes).toEqual([
    { jointId: "a", keys: [key(100, 1), key(200, 2), key(300, 3), key(400, 2)] },
    { jointId: "b", keys: [key(50, 9), key(250, 9)] },
  ]);
  expect(keysWith([], copied, 0).lanes.map((one) => one.keys.length)).toEqual([1, 1]);
});

test("whatever is moved wherever, moments stay unique and in order, and nothing that is not landed on is lost", () => {
  const moments = fc.uniqueArray(fc.integer({ min: 0, max: 40 }), { minLength: 1, maxLength: 12 });
  fc.assert(
    fc.property(moments, fc.integer({ min: -50, max: 50 }), fc.nat(), (places, by, pick) => {
      const keys = places.toSorted((a, b) => a - b).map((ms) => key(ms, ms));
      const chosen = keys.filter((_, index) => (index + pick) % 2 === 0).map((one) => at("a", one.atMs));
      if (chosen.length === 0) return;
      const [after] = shiftedKeys([lane("a", ...keys)], chosen, by, same).lanes;
      const times = after?.keys.map((one) => one.atMs) ?? [];
      expect(times).toEqual([...new Set(times)].toSorted((a, b) => a - b));
      expect(times.every((ms) => ms >= 0)).toBe(true);
      for (const one of chosen) expect(after?.keys.some((other) => other.target === one.atMs)).toBe(true);
    }),
  );
});
