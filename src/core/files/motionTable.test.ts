import { demoProject } from "@core/demo";
import { expect, test } from "vitest";
import { guessMotion, motionFrom, writeMotionJson, writeMotionTable } from ".";

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
