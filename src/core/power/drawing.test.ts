import type { Board, Project, Run } from "@core/project";
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

/** Boxes that a wire runs through, and does not end at. */
function passed({ boxes, wires }: Drawing): string[] {
  return boxes.flatMap((box) =>
    wires
      .filter(({ points }) =>
        points.slice(1).some(([x1, y1], at) => {
          const [x0, y0] = points[at] as readonly [number, number];
          const isBeside = Math.max(y0, y1) <= box.yMm || Math.min(y0, y1) >= box.yMm + box.hMm;
          return !isBeside && Math.min(x0, x1) < box.xMm + box.wMm - 0.01 && Math.max(x0, x1) > box.xMm + 0.01;
        }),
      )
      .map(({ of }) => `${box.label} under ${of.kind === "run" ? of.id : of.jointId}`),
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
  expect(passed(drawing)).toEqual([]);
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
  expect(passed(drawing)).toEqual([]);
  const rows = drawing.boxes.filter(({ kind }) => kind === "joint").map(({ yMm }) => yMm);
  expect(new Set(rows).size).toBe(32);
  expect(
    Math.min(...rows.sort((a, b) => a - b).map((y, at) => (at === 0 ? 99 : y - (rows[at - 1] ?? 0)))),
  ).toBeGreaterThanOrEqual(7 - 1e-9);
});

test("a board whose servos hang on several rails stands beside each group of them, so no wire runs through another board", () => {
  const rails = ["a", "b", "c"].map((id) => ({ id, label: id.toUpperCase() }));
  const [one, other] = demo.boards as readonly [Board, Board];
  const base = bench(12, {
    supplies: [adapter("s", 5, 9000)],
    rails,
    runs: [
      ...rails.map(({ id }) => wire(`to-${id}`, supply("s"), rail(id), 0.01)),
      ...Array.from({ length: 12 }, (_, at) =>
        wire(`to-j${at}`, rail(["a", "b", "c"][at % 3] as string), joint(`j${at}`), 0.05),
      ),
    ],
  });
  const joints = base.joints.map((each, at) => ({ ...each, boardId: (at % 2 ? one : other).id, channel: at }));
  const drawing = drawingOf({ ...base, joints });
  expect(overlaps(drawing)).toEqual([]);
  expect(passed(drawing)).toEqual([]);
  const parts = drawing.boxes.filter(({ kind, id }) => kind === "board" && id === one.id);
  expect(parts.map(({ part }) => part)).toEqual(parts.map((_, at) => at));
  expect(parts.length).toBeGreaterThan(1);
  expect(parts.flatMap(({ pins }) => pins)).toHaveLength(6);
});

test("a ground alone leads to its servo, which stands on the sheet once", () => {
  const drawing = drawingOf(
    bench(1, {
      supplies: [adapter("s", 5, 9000)],
      rails: [{ id: "r", label: "R" }],
      runs: [
        wire("in", supply("s"), rail("r"), 0.01),
        wire("feed", rail("r"), joint("j0"), 0.01, { carries: "supply" }),
        wire("back", rail("r"), joint("j0"), 0.01, { carries: "ground" }),
      ],
    }),
  );
  const servos = drawing.boxes.filter(({ kind }) => kind === "joint");
  expect(servos).toHaveLength(1);
  const end = drawing.wires.find(({ of }) => of.kind === "run" && of.id === "back")?.points.at(-1);
  expect(end?.[0]).toBe(servos[0]?.xMm);
  expect(end?.[1]).toBeGreaterThan(servos[0]?.yMm ?? 0);
  expect(end?.[1]).toBeLessThan((servos[0]?.yMm ?? 0) + (servos[0]?.hMm ?? 0));
});

test("an empty bench is an empty sheet", () => {
  expect(drawingOf(bench(0, { supplies: [], runs: [] }, { boards: [] })).boxes).toEqual([]);
});
