import { expect, test } from "vitest";
import { escapesOf, happenings } from "./fuzz/benchFuzz";

// A few thousand happenings; any seed and any number of them by `npm run fuzz`.
test.each([1, 2, 3])(
  "whatever happens at the bench, nothing leaves for a pulse board that was promised not to (seed %d)",
  (seed) => {
    expect(escapesOf(happenings(seed, 900))).toEqual([]);
  },
);

test("limits drawn in around a limp joint: held again, it is not driven outside them (found by seed 10)", () => {
  expect(
    escapesOf([
      { kind: "command", command: { kind: "holdAll" } },
      { kind: "back", ms: 1994 },
      { kind: "travel", jointId: "grip", low: -126, high: -114 },
      { kind: "command", command: { kind: "releaseAll" } },
      { kind: "command", command: { kind: "holdAll" } },
      { kind: "run", ms: 160 },
    ]),
  ).toEqual([]);
});

test("a board that released by itself and is greeted again at once has let go all the same (found by seed 1)", () => {
  expect(
    escapesOf([
      { kind: "command", command: { kind: "holdAll" } },
      { kind: "command", command: { kind: "target", jointId: "neck-turn", target: -77 } },
      { kind: "back", ms: 2542 },
      { kind: "run", ms: 60 },
    ]),
  ).toEqual([]);
});

test("where travel and window have nothing in common the window wins, and it comes in calmly (found by seed 2007)", () => {
  const script = [
    { kind: "command", command: { kind: "holdAll" } },
    { kind: "travel", jointId: "right-lid", low: -128, high: -93 },
    { kind: "run", ms: 900 },
    { kind: "window", jointId: "right-lid", low: 621, high: 1591 },
    { kind: "run", ms: 900 },
  ] as const;
  expect(escapesOf(script)).toEqual([]);
});

test("a joint on a bus that is released is sent no goal while it has not said that it let go (found by seed 2014)", () => {
  const script = [
    { kind: "command", command: { kind: "holdAll" } },
    { kind: "run", ms: 140 },
    { kind: "command", command: { kind: "release", jointId: "shoulder" } },
    { kind: "run", ms: 20 },
    { kind: "stall", ms: 43 },
  ] as const;
  expect(escapesOf(script)).toEqual([]);
});

test("a goal from before a window was drawn in does not leave after it (found by seed 3011)", () => {
  const script = [
    { kind: "command", command: { kind: "holdAll" } },
    { kind: "run", ms: 120 },
    { kind: "window", jointId: "shoulder", low: 1010, high: 1530 },
    { kind: "run", ms: 80 },
  ] as const;
  expect(escapesOf(script)).toEqual([]);
});

test("limits that are in force again after a press whose frames were lost lead no joint out of its travel (found by seed 7048)", () => {
  const press = {
    kind: "press",
    jointId: "beak",
    from: 1400,
    to: 1450,
    backTo: 1380,
    settleMs: 60,
    forMs: 300,
  } as const;
  const script = [
    { kind: "command", command: { kind: "holdAll" } },
    { kind: "run", ms: 80 },
    { kind: "plug", boardId: "fern", isPlugged: false },
    { kind: "run", ms: 40 },
    { kind: "command", command: press },
    { kind: "run", ms: 20 },
    { kind: "plug", boardId: "fern", isPlugged: true },
    { kind: "command", command: { kind: "giveBack", jointId: "beak" } },
    { kind: "run", ms: 120 },
  ] as const;
  expect(escapesOf(script)).toEqual([]);
});

test("a joint whose first frames were lost does not begin outside its travel, whatever those were about (found by seed 9121)", () => {
  const script = [
    { kind: "travel", jointId: "ear-tuft", low: -55, high: -46 },
    { kind: "command", command: { kind: "holdAll" } },
    { kind: "run", ms: 900 },
    {
      kind: "encoding",
      boardId: "fern",
      encoding: { kind: "counts", bits: 12, fullScale: "2^n", rounding: "truncate" },
    },
    {
      kind: "calibrated",
      jointId: "ear-tuft",
      points: [
        [31, 872],
        [128, 2034],
      ],
    },
    { kind: "command", command: { kind: "holdAll" } },
    { kind: "plug", boardId: "fern", isPlugged: false },
    { kind: "run", ms: 60 },
    { kind: "plug", boardId: "fern", isPlugged: true },
    { kind: "undo" },
    { kind: "run", ms: 120 },
  ] as const;
  expect(escapesOf(script)).toEqual([]);
});
