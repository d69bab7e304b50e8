import { demoProject } from "@core/demo";
import { emptyRoutine, here, type Part, type Project } from "@core/project";
import { readyScore } from "@core/routine";
import { freshMove } from "@core/steps";
import { expect, test } from "vitest";
import { examine } from "./examine";

/** The demo's shoulder alone, with one lever of 300 mm and so much at its end, and a move from hanging down to lying flat. */
function lever(massG: number, moveMs: number, useShare = 1): Project {
  const demo = demoProject();
  const part: Part = {
    id: "lever",
    label: "Lever",
    parentId: null,
    place: here,
    motion: { kind: "turn", axis: [0, 1, 0], by: { kind: "joint", jointId: "shoulder", ratio: 1, offset: 0 } },
    bodies: [],
    massG,
    centreMm: [0, 0, 300],
    inertiaGMm2: [0, 0, 0, 0, 0, 0],
  };
  const figure = {
    id: "f",
    label: "F",
    rigId: "trellis",
    place: here,
    parts: [part],
    tips: [],
    springs: [],
    mayTouch: [],
    useShare,
  };
  const pose = (id: string, shoulder: number) => ({ id, name: id, group: "", targets: { shoulder } });
  const step = (id: string, poseId: string, ms: number) => ({
    ...freshMove(id, poseId),
    pace: { kind: "time" as const, moveMs: ms },
    holdMs: 400,
  });
  return {
    ...demo,
    pads: [],
    leads: [],
    things: [],
    figures: [figure],
    poses: [pose("up", 0), pose("flat", 80)],
    routines: [{ ...emptyRoutine("r", "R"), steps: [step("a", "up", 3000), step("b", "flat", moveMs)] }],
  };
}

function found(project: Project) {
  const [routine] = project.routines;
  const score = routine && readyScore(project, routine, new Map());
  if (!score?.ok) throw new Error("no score");
  return examine(project, score.value, { hasGhost: false }).findings.filter(({ kind }) => kind === "torque");
}

test("what a servo cannot hold is said, with the numbers that can be worked out by hand", () => {
  // 15 kg·cm hold 500 g at 300 mm, and no more: at 80° 508 g. 600 g are too much, slowly or not.
  const heavy = found(lever(600, 6000));
  expect(heavy.map(({ jointId }) => jointId)).toEqual(["shoulder"]);
  // 0.6 · 30 · sin 80° = 17.7 kg·cm.
  expect(heavy[0]?.asked).toBeCloseTo(17.7, 0);
  expect(heavy[0]?.sentence).toMatch(
    /^Shoulder needs 17\.\d kg·cm to hold what hangs on it; its servo can give 15\.0\.$/,
  );
  expect(heavy[0]?.mends).toEqual([]);
  expect(found(lever(400, 6000))).toEqual([]);
});

test("what it may use is a share that one chooses, and haste weighs as well: more time mends that", () => {
  expect(found(lever(250, 6000))).toEqual([]);
  expect(found(lever(250, 6000, 0.4))[0]?.sentence).toMatch(/it may use \d\.\d of the 15\.0 that its servo can/);
  // 250 g in 0.4 s over 80°: the least jerk peaks at 5.77·80/0.16 = 2900 °/s², which alone takes 11.6 kg·cm.
  const hasty = found(lever(250, 400))[0];
  expect(hasty?.sentence).toContain("to move what hangs on it");
  // The worst moment is mended each time; the next worst may come to light.
  let [moveMs, times] = [400, 0];
  for (let left = found(lever(250, moveMs)); left.length > 0; left = found(lever(250, moveMs))) {
    const mend = left[0]?.mends[0];
    if (mend?.kind !== "moveMs") throw new Error("no more time was offered");
    expect(mend.moveMs).toBeGreaterThan(moveMs);
    moveMs = mend.moveMs;
    times += 1;
  }
  expect(times).toBeLessThanOrEqual(4);
  expect(moveMs).toBeLessThan(1500);
  // Parts without a mass say nothing.
  expect(found(lever(0, 400))).toEqual([]);
});
