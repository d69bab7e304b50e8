import { demoProject } from "@core/demo";
import type { Joint, Rig } from "@core/project";
import { expect, test } from "vitest";
import { beginnings, begun } from "./beginnings";
import type { FreeJoint } from "./chain";
import { seeded } from "./fixtures";
import { pointIn } from "./frames";
import { lookAt } from "./lookAt";
import { assemble, partFrame, placeOf, setTargets, stand, standing } from "./stand";

const demo = demoProject();
const rig: Rig = { id: "head", label: "Head", mirror: [] };
/** Seven joints: neck turn and nod, both eyes sideways, eyes up, lids, jaw. */
const names = ["turn", "nod", "left-eye", "right-eye", "eyes-up", "lids", "jaw"];
const joints: readonly Joint[] = names.map((id) => ({ ...(demo.joints[0] as Joint), id, label: id, rigId: "head" }));
let ids = 0;
const headBeginning = beginnings.find(({ id }) => id === "head");
if (!headBeginning) throw new Error("no head");
const head = begun(headBeginning, rig, joints, () => `p${++ids}`);
const assembly = assemble([head], names);
const limits: Record<string, number> = { turn: 80, nod: 30, "left-eye": 25, "right-eye": 25, "eyes-up": 20 };
const free: readonly FreeJoint[] = names.flatMap((id, place) =>
  limits[id] ? [{ place, low: -limits[id], high: limits[id] }] : [],
);

/** By how much each eye looks past a place, in degrees, with these targets. */
function offOf(targets: Readonly<Record<string, number>>, atMm: readonly [number, number, number]): number[] {
  const now = standing(assembly);
  setTargets(now, targets);
  stand(now);
  return head.tips.map((tip) => {
    const f = partFrame(placeOf(assembly, tip.partId));
    const eye = new Float64Array(3);
    pointIn(now.frames, f, tip.place.atMm, eye);
    const gap = atMm.map((value, row) => value - (eye[row] as number));
    const along =
      gap.reduce((sum, value, row) => sum + value * (now.frames[f + 3 * row] as number), 0) / Math.hypot(...gap);
    return (Math.acos(Math.min(1, along)) * 180) / Math.PI;
  });
}

test("both eyes meet in the place, and the neck takes most of a large turn", () => {
  const gaze = lookAt(head, assembly, free, {}, [400, 250, 150]);
  if (!gaze) throw new Error("no look");
  expect(gaze.offDeg).toBeLessThan(0.1);
  for (const off of offOf(gaze.targets, [400, 250, 150])) expect(off).toBeLessThan(0.1);
  const { turn = 0, "left-eye": left = 0, "right-eye": right = 0 } = gaze.targets;
  // To the side it is about 35°: two thirds by the neck, the rest by the eyes, which come together on what is near.
  expect(turn).toBeGreaterThan(15);
  expect(turn).toBeLessThan(30);
  expect(left).toBeGreaterThan(3);
  expect(right).toBeGreaterThan(left);
});

test("where the eyes come to their stops the neck goes on, and what is behind is said to be past", () => {
  const gaze = lookAt(head, assembly, free, {}, [60, 600, 130]);
  expect(gaze?.offDeg).toBeLessThan(0.1);
  expect(gaze?.targets.turn).toBeGreaterThan(60);
  const behind = lookAt(head, assembly, free, {}, [-500, 60, 130]);
  expect(behind?.offDeg).toBeGreaterThan(20);
  expect(behind?.targets.turn).toBeLessThanOrEqual(80);
});

test("wherever it looks no joint leaves its limits", () => {
  const random = seeded(31);
  for (let look = 0; look < 200; look += 1) {
    const gaze = lookAt(head, assembly, free, {}, [random(-600, 600), random(-600, 600), random(-100, 500)]);
    for (const [id, target] of Object.entries(gaze?.targets ?? {}))
      if (Math.abs(target) > (limits[id] ?? 0) + 1e-9) expect.fail(`${id}: ${target}`);
  }
});

test("an owl without eyes that turn looks with its neck alone; a figure without a look has none", () => {
  const tawny = demo.figures.find(({ id }) => id === "figure-tawny");
  if (!tawny) throw new Error("no owl");
  const jointIds = demo.joints.map(({ id }) => id);
  const owl = assemble([tawny], jointIds);
  const neck = [
    { place: jointIds.indexOf("neck-turn"), low: -80, high: 80 },
    { place: jointIds.indexOf("neck-nod"), low: -30, high: 35 },
  ];
  const gaze = lookAt(tawny, owl, neck, {}, [300, 430, 134]);
  // Straight to the side by as much as ahead of the neck: 45°, less a little, as the eyes stand before it.
  expect(gaze?.targets["neck-turn"]).toBeCloseTo(45, 0);
  expect(lookAt({ ...tawny, tips: [] }, owl, neck, {}, [1, 1, 1])).toBeNull();
});
