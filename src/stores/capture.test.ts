import { demoProject } from "@core/demo";
import { byId } from "@core/project";
import { beforeEach, expect, test, vi } from "vitest";
import { capturePose, heldTargets } from "./capture";
import { documentStore, layOut, projectNow, undo } from "./document";
import { noticeStore } from "./notices";

const live = new Map<string, { isHeld: number; target: number }>();
vi.mock("./live", () => ({
  liveJoint: (jointId: string, field: "isHeld" | "target") => live.get(jointId)?.[field] ?? Number.NaN,
}));

beforeEach(() => {
  layOut(demoProject());
  live.clear();
});

test("a pose is where the held joints stand, to a tenth of a degree, or a hundredth of a spin", () => {
  live.set("neck-turn", { isHeld: 1, target: 12.3456 });
  live.set("vent-crank", { isHeld: 1, target: -0.3333 });
  live.set("beak", { isHeld: 0, target: 20 });
  expect(heldTargets()).toEqual({ "neck-turn": 12.3, "vent-crank": -0.33 });
  const before = projectNow().poses.length;
  capturePose();
  expect(projectNow().poses.at(-1)).toMatchObject({
    name: `Pose ${before + 1}`,
    targets: { "neck-turn": 12.3, "vent-crank": -0.33 },
  });
  undo();
  expect(projectNow().poses).toHaveLength(before);
});

test("of some joints only those are captured", () => {
  live.set("neck-turn", { isHeld: 1, target: 1 });
  live.set("beak", { isHeld: 1, target: 2 });
  capturePose(["beak"]);
  expect(projectNow().poses.at(-1)?.targets).toEqual({ beak: 2 });
});

test("with nothing held there is no pose, and it is said what to do first", () => {
  const { project } = documentStore.getState();
  capturePose();
  expect(documentStore.getState().project).toBe(project);
  expect(noticeStore.getState().at(-1)).toMatchObject({
    sentence: "There is no held joint to capture. Hold at least one first.",
    tone: "warning",
  });
});

test("before the first snapshot nothing is known of a joint, and nothing is made up", () => {
  live.set("neck-turn", { isHeld: 1, target: Number.NaN });
  expect(heldTargets()).toEqual({});
  expect(byId(projectNow().joints, "neck-turn").label).toBe("Neck turn");
});
