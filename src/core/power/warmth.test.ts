import { readyScore } from "@core/routine";
import { expect, test } from "vitest";
import { courseOf, warmest } from ".";
import { demo } from "./fixtures";

const routine = demo.routines[0] as (typeof demo.routines)[number];
const warmed = (project: typeof demo) => {
  const score = readyScore(project, routine, new Map());
  if (!score.ok) throw new Error(score.problem);
  return warmest(project, courseOf(project, score.value, { hasLimits: false }));
};

test("what warms a wire lies between what it carries at rest and its worst moment, and the nearest to its limit is first", () => {
  const all = warmed(demo);
  expect(all.length).toBeGreaterThan(8);
  for (const { heatA, most, share, mayCarryA } of all) {
    expect(heatA).toBeGreaterThan(0);
    expect(heatA).toBeLessThanOrEqual(most.value);
    expect(share).toBeGreaterThanOrEqual(heatA / mayCarryA);
  }
  expect(all.map(({ share }) => share)).toEqual(all.map(({ share }) => share).sort((a, b) => b - a));
});

test("a fuse that is smaller than what warms it is first, and said to blow; a large one never does", () => {
  const first = warmed(demo)[0];
  const fused = (ratedMa: number) => {
    const runs = demo.runs.map((run) =>
      run.id === first?.run.id ? { ...run, fuse: { ratedMa, blows: "slow" as const } } : run,
    );
    return warmed({ ...demo, runs }).find(({ run }) => run.id === first?.run.id);
  };
  const rated = (first?.heatA ?? 0) * 1000;
  expect(fused(20 * rated)?.fuse).toEqual({ fromS: Number.POSITIVE_INFINITY, toS: Number.POSITIVE_INFINITY });
  const small = fused(rated / 4);
  expect(small?.fuse?.toS).toBeLessThan(60);
  expect(small?.share).toBeGreaterThan(1);
});
