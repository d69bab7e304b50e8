import type { Project, Run } from "@core/project";
import { expect, test } from "vitest";
import { type Drawing, drawingOf } from ".";
import { adapter, bench, demo, joint, rail, supply, wire } from "./fixtures";

/** Pairs of boxes that lie over each other. */
function overlaps({ boxes }: Drawing): string[] {
  return boxes.flatMap((one, at) =>
    boxes
      .slice(at + 1)
      .filter(
        (other) =>
          one.xMm < other.xMm + other.wMm &&
          other.xMm < one.xMm + one.wMm &&
          one.yMm < other.yMm + other.hMm &&
          other.yMm < one.yMm + one.hMm,
      )
      .map((other) => `${one.label} and ${other.label}`),
  );
}

/** Signals that cross another wire of another thing. */
function crossings({ wires }: Drawing): number {
  const pieces = wires.flatMap(({ points, of }) =>
    points.slice(1).map((to, at) => ({ from: points[at] as readonly [number, number], to, of })),
  );
  let count = 0;
  for (const flat of pieces.filter(({ from, to }) => from[1] === to[1]))
    for (const upright of pieces.filter(({ from, to }) => from[0] === to[0] && from[1] !== to[1])) {
      if (JSON.stringify(flat.of) === JSON.stringify(upright.of)) continue;
      const [x0, x1] = [flat.from[0], flat.to[0]].sort((a, b) => a - b) as [number, number];
      const [y0, y1] = [upright.from[1], upright.to[1]].sort((a, b) => a - b) as [number, number];
      if (upright.from[0] > x0 && upright.from[0] < x1 && flat.from[1] > y0 && flat.from[1] < y1) count += 1;
    }
  return count;
}

test("the greenhouse: every thing once, every run and every signal drawn, nothing over anything, no crossing", () => {
  const drawing = drawingOf(demo);
  expect(overlaps(drawing)).toEqual([]);
  expect(crossings(drawing)).toBe(0);
  const { supplies, rails, boards, joints, runs } = demo;
  expect(drawing.boxes.map(({ id }) => id).sort()).toEqual(
    [...supplies, ...rails, ...boards, ...joints].map(({ id }) => id).sort(),
  );
  const drawn = new Set(drawing.wires.flatMap(({ of }) => (of.kind === "run" ? [of.id] : [])));
  expect([...drawn].sort()).toEqual(runs.map(({ id }) => id).sort());
  expect(drawing.wires.filter(({ role }) => role === "signal")).toHaveLength(joints.length);
});

test("32 servos on two rails of one pack: rows of their own, boards beside them; servos that nothing feeds are drawn too", () => {
  const rails = [
    { id: "a", label: "A" },
    { id: "b", label: "B" },
  ];
  const runs: Run[] = [
    ...rails.map(({ id }) => wire(`to-${id}`, supply("s"), rail(id), 0.01)),
    ...Array.from({ length: 30 }, (_, at) => wire(`to-j${at}`, rail(at % 2 ? "a" : "b"), joint(`j${at}`), 0.05)),
  ];
  const project: Project = bench(32, { supplies: [adapter("s", 5, 9000)], rails, runs });
  const drawing = drawingOf(project);
  expect(overlaps(drawing)).toEqual([]);
  const rows = drawing.boxes.filter(({ kind }) => kind === "joint").map(({ yMm }) => yMm);
  expect(new Set(rows).size).toBe(32);
  expect(
    Math.min(...rows.sort((a, b) => a - b).map((y, at) => (at === 0 ? 99 : y - (rows[at - 1] ?? 0)))),
  ).toBeGreaterThanOrEqual(7 - 1e-9);
});

test("an empty bench is an empty sheet", () => {
  expect(drawingOf(bench(0, { supplies: [], runs: [] }, { boards: [] })).boxes).toEqual([]);
});
