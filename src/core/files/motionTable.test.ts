import { demoProject } from "@core/demo";
import { expect, test } from "vitest";
import { evenFrameMs, guessMotion, motionFrom, writeMotionJson, writeMotionTable } from ".";

const project = demoProject();
const whole = { rowMs: 20, frameMs: 20 };
const read = (rows: string[][], how = whole) => {
  const guess = guessMotion(project, rows);
  if (!guess.ok) throw new Error(guess.problem);
  return { guess: guess.value, motion: motionFrom(project, guess.value, how) };
};

test("what is written in degrees or in µs is read again as the same movement", () => {
  const motion = {
    jointIds: ["neck-turn", "elbow"],
    frameMs: 20,
    channels: [Float32Array.of(0, 10, 20.5, -7), Float32Array.of(30, 31, 32, 33)],
  };
  for (const unit of ["deg", "setPoint"] as const) {
    const rows = writeMotionTable(project, motion, unit);
    expect(rows[0]).toEqual(
      unit === "deg" ? ["time (s)", "Neck turn (deg)", "Elbow (deg)"] : ["time (s)", "Neck turn (us)", "Elbow (ticks)"],
    );
    const again = read(rows).motion;
    if (!again.ok) throw new Error(again.problem);
    expect(again.value.jointIds).toEqual(motion.jointIds);
    for (const [at, channel] of motion.channels.entries())
      for (const [frame, target] of channel.entries())
        expect(Math.abs((again.value.channels[at]?.[frame] ?? Number.NaN) - target)).toBeLessThan(0.01);
  }
  expect(JSON.parse(writeMotionJson(project, "Nod", motion)).joints[0]).toEqual({
    id: "neck-turn",
    label: "Neck turn",
    unit: "degrees",
    targets: [0, 10, 20.5, -7],
  });
});

test("a file from elsewhere: milliseconds, pulses, and a column nobody knows", () => {
  const { guess, motion } = read([
    ["Time [ms]", "beak", "mood"],
    ["100", "1500", "1"],
    ["150", "1600", "0"],
    ["x", "1600", "0"],
    ["200", "1600", "1"],
  ]);
  expect(guess).toMatchObject({ timeAt: 0, timeUnit: "ms", skipped: 1 });
  expect(guess.columns.map(({ jointId, unit }) => [jointId, unit])).toEqual([
    ["beak", "setPoint"],
    [null, "deg"],
  ]);
  // 100 ms at 20 ms a frame: 0 to 100 in six frames; half-way to the second row the pulse is half-way as well.
  expect(motion.ok && motion.value.channels[0]).toHaveLength(6);
});

test("rows without time are frames of the length that is said", () => {
  const { guess, motion } = read(
    [
      ["10", "40"],
      ["11", "30"],
      ["9", "20"],
    ],
    { rowMs: 40, frameMs: 20 },
  );
  expect(guess).toMatchObject({ timeAt: -1, timeUnit: "frames" });
  expect(motion).toMatchObject({ ok: false, problem: expect.stringContaining("Choose a joint") });
  const columns = guess.columns.map((column, at) => ({ ...column, jointId: at === 0 ? "beak" : null }));
  const taken = motionFrom(project, { ...guess, columns }, { rowMs: 40, frameMs: 20 });
  expect(taken.ok && Array.from(taken.value.channels[0] ?? [])).toEqual([10, 10.5, 11, 10, 9]);
});

test.each([
  [[], "empty"],
  [
    [
      ["a", "b"],
      ["c", "d"],
    ],
    "not two rows of numbers",
  ],
])("%j is refused", (rows, says) => {
  const guess = guessMotion(project, rows);
  expect(guess.ok ? "" : guess.problem).toContain(says);
});

test("one joint in two columns, and a time in the wrong unit, are refused before anything is taken", () => {
  const { guess } = read([
    ["t", "beak", "lid"],
    ["0", "1", "2"],
    ["3600000", "2", "3"],
  ]);
  const both = guess.columns.map((column) => ({ ...column, jointId: "beak" }));
  expect(motionFrom(project, { ...guess, columns: both }, whole)).toMatchObject({
    problem: expect.stringContaining("two columns"),
  });
  const columns = guess.columns.slice(0, 1);
  expect(motionFrom(project, { ...guess, columns, timeUnit: "s" }, whole)).toMatchObject({
    problem: expect.stringContaining("1000.0 hours"),
  });
});

const guessed = (rows: string[][], said: "point" | "comma" | null = null) => {
  const guess = guessMotion(project, rows, said);
  if (!guess.ok) throw new Error(guess.problem);
  return guess.value;
};

test("a comma at every row's end, an empty column and one of remarks cost no row; remarks are said to be left out", () => {
  const guess = guessed([
    ["time (s)", "Beak (deg)", "remark", "", ""],
    ["0", "10", "opens", "", ""],
    ["0.02", "11", "", "", ""],
    ["0.04", "12", "wide", "", ""],
  ]);
  expect(guess).toMatchObject({ skipped: 0, wordy: ["remark"], timeAt: 0 });
  expect(guess.columns.map((column) => column.head)).toEqual(["Beak (deg)"]);
});

test("a gap in a column is gone over straight; of two rows at the same moment the later counts from there on", () => {
  const rows = [
    ["ms", "Beak (deg)", "Elbow (deg)"],
    ["0", "10", "40"],
    ["20", "", "40"],
    ["40", "14", "40"],
    ["40", "30", "42"],
    ["60", "30", "44"],
  ];
  const { guess, motion } = read(rows);
  expect(guess).toMatchObject({ timeAt: 0, timeUnit: "ms", skipped: 0 });
  expect(motion.ok && motion.value.channels.map((channel) => Array.from(channel))).toEqual([
    [10, 12, 30, 30],
    [40, 40, 42, 44],
  ]);
});

test("no frame is lost at 16.667 ms, whatever the frames it is laid on, and even frames of a file are known", () => {
  const channel = Float32Array.from({ length: 31 }, (_, at) => at);
  const rows = writeMotionTable(project, { jointIds: ["neck-turn"], frameMs: 16.667, channels: [channel] }, "deg");
  const guess = guessed(rows);
  const frameMs = evenFrameMs(guess, 20) ?? 0;
  expect(frameMs).toBeCloseTo(16.667, 2);
  const same = motionFrom(project, guess, { rowMs: 20, frameMs });
  expect(same.ok && same.value.channels[0]).toHaveLength(31);
  const other = motionFrom(project, guess, { rowMs: 20, frameMs: 20 });
  expect(other.ok && other.value.channels[0]?.at(-1)).toBe(30);
  expect(
    evenFrameMs(
      guessed([
        ["0", "1"],
        ["20", "2"],
        ["60", "3"],
      ]),
      20,
    ),
  ).toBeNull();
});

test("one file has one way of writing numbers; where nothing tells, it is said, and a person chooses", () => {
  const clear = guessed([
    ["ms", "Beak (us)"],
    ["0", "1,500"],
    ["20", "1499,5"],
  ]);
  expect(clear).toMatchObject({ convention: "comma", doubtful: null });
  expect(clear.rows.map((row) => row[1])).toEqual([1.5, 1499.5]);
  const rows = [
    ["ms", "Beak (us)"],
    ["0", "1,500"],
    ["20", "1,600"],
  ];
  expect(guessed(rows)).toMatchObject({ convention: "point", doubtful: "1,500" });
  expect(guessed(rows).rows.map((row) => row[1])).toEqual([1500, 1600]);
  expect(guessed(rows, "comma").rows.map((row) => row[1])).toEqual([1.5, 1.6]);
});
