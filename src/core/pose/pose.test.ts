import { demoProject } from "@core/demo";
import { byId } from "@core/project";
import fc from "fast-check";
import { expect, test } from "vitest";
import { blended, mirrored, mirrorOf, readPoseTable, unmirrored, writePoseTable } from ".";

const project = demoProject();
const mirror = mirrorOf(project);

test("a wink of the left eye, head to the left, becomes one of the right eye, head to the right", () => {
  expect(mirrored({ "neck-turn": -55, "left-lid": 0, "right-lid": 50, beak: 12 }, mirror)).toEqual({
    "neck-turn": 55,
    "left-lid": 50,
    "right-lid": 0,
    beak: 12,
  });
  expect(mirrored({ "left-lid": 20 }, mirror)).toEqual({ "right-lid": 20 });
  expect(mirrored({ "left-lid": 20 }, [{ kind: "pair", leftId: "left-lid", rightId: "right-lid", sign: -1 }])).toEqual({
    "right-lid": -20,
  });
  expect(unmirrored({ "neck-turn": 1, beak: 2 }, mirror)).toEqual(["beak"]);
});

test("mirrored twice, every pose is itself again", () => {
  const targets = fc.dictionary(fc.constantFrom("neck-turn", "left-lid", "right-lid", "beak"), fc.integer());
  fc.assert(
    fc.property(targets, (one) => {
      expect(mirrored(mirrored(one, mirror), mirror)).toEqual({ ...one });
    }),
  );
});

test("a quarter of the way from 0° to 40° is 10°; joints that only one pose has are left out", () => {
  expect(blended({ a: 0, b: 5 }, { a: 40, c: 1 }, 0.25)).toEqual({ a: 10 });
});

test("a table goes out and comes in again the same, in degrees, per cent of travel and µs", () => {
  for (const unit of ["deg", "percent", "setPoint"] as const) {
    const poses = project.poses.filter((pose) => pose.group === "Tawny");
    const read = readPoseTable(project, writePoseTable(project, poses, unit), unit);
    if (!read.ok) throw new Error(read.problem);
    expect(read.value.added).toEqual([]);
    for (const pose of poses)
      for (const [id, target] of Object.entries(pose.targets))
        expect(Math.abs((read.value.changes.get(pose.id)?.[id] ?? Number.NaN) - target)).toBeLessThan(0.02);
  }
});

test("in per cent of its travel of −80° to 80° the neck's 0° is 50; the blink has no neck", () => {
  const rows = writePoseTable(
    project,
    [byId(project.poses, "pose-watch"), byId(project.poses, "pose-blink")],
    "percent",
  );
  expect(rows[0]?.slice(0, 2)).toEqual(["pose", "Neck turn"]);
  expect(rows[1]?.slice(0, 2)).toEqual(["Watch", "50"]);
  expect(rows[2]?.slice(0, 2)).toEqual(["Blink", ""]);
});

test("names are found however they are spelt; a new name is a new pose", () => {
  const read = readPoseTable(
    project,
    [
      ["", "NECK-TURN", "beak"],
      ["look left", "−40,5°", ""],
      ["Yawn", "0", "33"],
    ],
    "deg",
  );
  expect(read.ok && [...read.value.changes]).toEqual([["pose-look-left", { "neck-turn": -40.5 }]]);
  expect(read.ok && read.value.added).toEqual([{ name: "Yawn", targets: { "neck-turn": 0, beak: 33 } }]);
});

test.each([
  [
    [
      ["pose", "Tail"],
      ["Watch", "1"],
    ],
    "no joint “Tail”",
  ],
  [
    [
      ["pose", "Beak"],
      ["Watch", "wide"],
    ],
    "Watch, Beak: “wide” is not a number",
  ],
  [
    [
      ["pose", "Beak"],
      ["", "3"],
    ],
    "Row 2 has no name",
  ],
  [[["pose", "Beak"]], "a row for each pose"],
])("%j is refused", (rows, says) => {
  const read = readPoseTable(project, rows, "deg");
  expect(read.ok ? "" : read.problem).toContain(says);
});
