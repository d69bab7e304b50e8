import { lagMsAt, type Shaper, type Surroundings } from "@core/shapers";
import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { Chain, outcomesOf } from ".";

const others: Record<string, number> = {};
const around: Surroundings = {
  valueOf: (id) => others[id] ?? Number.NaN,
  rangeOf: (id) => (id === "switch" ? { low: 0, high: 1 } : { low: 0, high: 1000 }),
};
/** Feeds values one after the other, `dtMs` apart, and gives what came out each time. */
function through(shaper: Shaper, values: readonly number[], dtMs = 20): number[] {
  const chain = new Chain([shaper], around);
  return values.map((value) => chain.step(value, dtMs));
}
const percent = { low: 0, high: 100 };

describe("stages without a memory", () => {
  test.each<[string, Shaper, [number, number][]]>([
    [
      "a knob of 0…1000 onto −90…90°, and no further",
      { kind: "rangeMap", from: { low: 0, high: 1000 }, to: { low: -90, high: 90 } },
      [
        [0, -90],
        [500, 0],
        [1000, 90],
        [2000, 90],
        [-5, -90],
      ],
    ],
    [
      "the same reversed",
      { kind: "rangeMap", from: percent, to: { low: 60, high: 0 } },
      [
        [0, 60],
        [25, 45],
        [100, 0],
      ],
    ],
    [
      "clamp",
      { kind: "limit", how: "clamp", range: { low: -10, high: 20 } },
      [
        [-30, -10],
        [5, 5],
        [21, 20],
      ],
    ],
    [
      "wrap of a compass",
      { kind: "limit", how: "wrap", range: { low: 0, high: 360 } },
      [
        [370, 10],
        [-10, 350],
        [360, 0],
      ],
    ],
    [
      // 12 is 2 beyond the band; the 90 that are left are stretched onto 100: 2 × 100 / 90.
      "a deadband of 10 about 0 keeps the ends of ±100",
      { kind: "deadband", centre: 0, halfWidth: 10, reach: 100 },
      [
        [9, 0],
        [-10, 0],
        [12, 200 / 90],
        [100, 100],
        [-100, -100],
      ],
    ],
    [
      // At 75: u = 0.5, half of u and half of u³: 0.25 + 0.0625 = 0.3125, so (0.3125 + 1) / 2.
      "half expo is gentle in the middle",
      { kind: "curve", range: percent, shape: { kind: "expo", amount: 0.5 } },
      [
        [0, 0],
        [50, 50],
        [75, 65.625],
        [100, 100],
      ],
    ],
    [
      // A full S at a quarter: 0.25² × (3 − 0.5) = 0.15625.
      "a full S",
      { kind: "curve", range: percent, shape: { kind: "s", amount: 1 } },
      [
        [0, 0],
        [25, 15.625],
        [50, 50],
        [100, 100],
      ],
    ],
    [
      "a drawn curve",
      {
        kind: "curve",
        range: percent,
        shape: {
          kind: "points",
          points: [
            { x: 0, y: 0.2 },
            { x: 0.5, y: 0.4 },
            { x: 1, y: 1 },
          ],
        },
      },
      [
        [0, 20],
        [25, 30],
        [75, 70],
        [100, 100],
      ],
    ],
    [
      "four steps a detent",
      { kind: "detents", stepsPerDetent: 4 },
      [
        [3, 0],
        [4, 1],
        [11, 2],
        [-1, -1],
      ],
    ],
    ["add", { kind: "add", by: -15 }, [[10, -5]]],
    ["scale", { kind: "scale", by: 1.5 }, [[10, 15]]],
  ])("%s", (_, shaper, pairs) => {
    for (const [value, expected] of pairs) expect(through(shaper, [value])[0]).toBeCloseTo(expected, 9);
  });
});

describe("stages that remember", () => {
  test("a change threshold of 5 lets 10, 12, 14, 15, 19, 9 out as 10, 10, 10, 15, 15, 9", () => {
    expect(through({ kind: "change", by: 5 }, [10, 12, 14, 15, 19, 9])).toEqual([10, 10, 10, 15, 15, 9]);
  });

  test("a rate of 100 per second takes three frames of 20 ms from 0 to 5, two a frame", () => {
    expect(through({ kind: "rate", perS: 100 }, [0, 5, 5, 5, 5])).toEqual([0, 2, 4, 5, 5]);
  });

  test("a threshold at 600 with its off at 400 and a dwell of 40 ms: on in the second frame above, kept in between", () => {
    const out = through({ kind: "threshold", on: 600, off: 400, dwellMs: 40 }, [0, 700, 700, 500, 450, 390, 390, 500]);
    expect(out).toEqual([0, 0, 1, 1, 1, 1, 0, 0]);
  });

  test("a threshold with its on below its off switches on when it falls: it gets dark", () => {
    expect(through({ kind: "threshold", on: 200, off: 300, dwellMs: 0 }, [500, 250, 190, 250, 310])).toEqual([
      0, 0, 1, 1, 0,
    ]);
  });

  test("a toggle turns over at each press, and not for a button that was down to begin with", () => {
    expect(through({ kind: "toggle" }, [1, 0, 1, 1, 0, 1])).toEqual([0, 0, 1, 1, 1, 0]);
  });

  test("a latch of 60 ms stays on for three frames after", () => {
    expect(through({ kind: "latch", holdMs: 60 }, [0, 1, 0, 0, 0, 0])).toEqual([0, 1, 1, 1, 0, 0]);
  });

  test("a press is short when it ends before 100 ms, long at the moment it has lasted so long, never both", () => {
    const tap = [0, 1, 1, 0, 0];
    const hold = [0, 1, 1, 1, 1, 1, 1, 0];
    const short: Shaper = { kind: "press", which: "short", longMs: 100 };
    const long: Shaper = { kind: "press", which: "long", longMs: 100 };
    expect(through(short, tap)).toEqual([0, 0, 0, 1, 0]);
    expect(through(long, tap)).toEqual([0, 0, 0, 0, 0]);
    expect(through(short, hold)).toEqual([0, 0, 0, 0, 0, 0, 0, 0]);
    expect(through(long, hold)).toEqual([0, 0, 0, 0, 0, 0, 1, 0]);
  });

  test("sample and hold takes the value when the other switches on", () => {
    const chain = new Chain([{ kind: "sample", whenSourceId: "switch" }], around);
    const step = (value: number, isOn: number) => {
      others.switch = isOn;
      return chain.step(value, 20);
    };
    expect([step(5, 0), step(6, 0), step(7, 1), step(8, 1), step(9, 0), step(10, 1)]).toEqual([5, 5, 7, 7, 7, 10]);
  });

  test("smoothing calms noise, and what moves fast is hardly late", () => {
    const smooth = (quickness: number): Shaper => ({ kind: "smooth", lagMs: 200, quickness, span: 100 });
    const noisy = Array.from({ length: 400 }, (_, at) => 50 + (at % 2 === 0 ? 2 : -2));
    const calm = through(smooth(5), noisy).slice(-50);
    expect(Math.max(...calm) - Math.min(...calm)).toBeLessThan(1);
    // A ramp of one span in a second: behind by the lag times its speed, 20 without quickness, a fraction of it with.
    const ramp = Array.from({ length: 100 }, (_, at) => at);
    const late = (quickness: number) => 99 - (through(smooth(quickness), ramp, 10).at(-1) as number);
    expect(late(0)).toBeGreaterThan(17);
    expect(late(10)).toBeLessThan(4);
    expect(lagMsAt(200, 10, 1)).toBeCloseTo(18.18, 2);
  });
});

describe("two sources", () => {
  const combine = (how: "sum" | "product" | "larger" | "mix"): Shaper => ({
    kind: "combine",
    sourceId: "other",
    to: { low: -1, high: 1 },
    how,
    share: 0.25,
  });
  test.each([
    ["sum", 1000, 0.5, 1.5],
    ["product", 0, 0.5, -0.5],
    ["larger", 500, -0.5, 0],
    ["mix", 1000, 0, 0.25],
  ] as const)("%s: the other at %d of 0…1000, this at %d, gives %d", (how, other, value, expected) => {
    others.other = other;
    expect(through(combine(how), [value])[0]).toBeCloseTo(expected, 9);
  });

  test("a speed is nothing while its direction was never given", () => {
    delete others.other;
    expect(through(combine("product"), [0.8])[0]).toBe(0);
  });

  test("a switch selects the other source", () => {
    const select: Shaper = { kind: "select", switchId: "switch", sourceId: "other", to: { low: 0, high: 10 } };
    others.other = 500;
    others.switch = 0;
    expect(through(select, [3])).toEqual([3]);
    others.switch = 1;
    expect(through(select, [3])).toEqual([5]);
  });
});

describe("whatever comes", () => {
  const anyNumber = fc.oneof(fc.double(), fc.constantFrom(Number.NaN, Number.POSITIVE_INFINITY, -0, 1e308, -1e308));
  const shapers: Shaper[] = [
    { kind: "rangeMap", from: percent, to: { low: 1, high: -1 } },
    { kind: "limit", how: "wrap", range: percent },
    { kind: "deadband", centre: 0, halfWidth: 1, reach: 2 },
    { kind: "curve", range: percent, shape: { kind: "expo", amount: -0.7 } },
    { kind: "smooth", lagMs: 50, quickness: 3, span: 10 },
    { kind: "rate", perS: 10 },
    { kind: "scale", by: 1e300 },
    combineSum(),
  ];
  function combineSum(): Shaper {
    return { kind: "combine", sourceId: "other", to: percent, how: "sum", share: 0.5 };
  }

  test("nothing that is not a number ever leaves, once something has", () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(anyNumber, fc.integer({ min: 0, max: 100 })), { maxLength: 30 }), (steps) => {
        const chain = new Chain(shapers, around);
        chain.step(5, 20);
        for (const [value, dtMs] of steps) expect(Number.isFinite(chain.step(value, dtMs))).toBe(true);
      }),
    );
  });

  test("curves rise and keep to their range, clamps to their bounds", () => {
    const amount = fc.double({ min: -1, max: 1, noNaN: true });
    fc.assert(
      fc.property(amount, fc.array(fc.double({ min: -50, max: 150, noNaN: true }), { minLength: 2 }), (by, values) => {
        const rising = values.toSorted((a, b) => a - b);
        for (const shape of [{ kind: "expo", amount: by } as const, { kind: "s", amount: Math.abs(by) } as const]) {
          const out = rising.map((value) => through({ kind: "curve", range: percent, shape }, [value])[0] as number);
          for (const [at, one] of out.entries()) {
            expect(one).toBeGreaterThanOrEqual(-1e-9);
            expect(one).toBeLessThanOrEqual(100 + 1e-9);
            expect(one).toBeGreaterThanOrEqual((out[at - 1] ?? one) - 1e-9);
          }
        }
      }),
    );
  });

  test("hysteresis never chatters: noise narrower than the gap switches at most once each time it is crossed", () => {
    fc.assert(
      fc.property(fc.array(fc.double({ min: -9, max: 9, noNaN: true }), { minLength: 50, maxLength: 200 }), (noise) => {
        const slow = noise.map((wobble, at) => 400 + (200 * at) / noise.length + wobble);
        const out = through({ kind: "threshold", on: 510, off: 490, dwellMs: 0 }, slow);
        const changes = out.filter((one, at) => at > 0 && one !== out[at - 1]).length;
        expect(changes).toBeLessThanOrEqual(1);
      }),
    );
  });
});

test("what may come out of a chain is worked out over the whole range of its source, and is one from 0 where nothing comes out", () => {
  const turned: Shaper = { kind: "rangeMap", from: { low: 0, high: 1000 }, to: { low: 30, high: -90 } };
  const { values, outs, least, most } = outcomesOf([turned], { low: 0, high: 1000 }, around, 4);
  expect(values).toEqual([0, 250, 500, 750, 1000]);
  expect(outs).toEqual([30, 0, -30, -60, -90]);
  expect([least, most]).toEqual([-90, 30]);
  const none = outcomesOf([turned], { low: Number.NaN, high: Number.NaN }, around, 4);
  expect([none.outs.some(Number.isFinite), none.least]).toEqual([false, 0]);
});
