import { demoProject } from "@core/demo";
import {
  addControl,
  addPad,
  applyEdit,
  byId,
  type Edit,
  type Project,
  removeJoint,
  removePose,
  removeSource,
} from "@core/project";
import { describe, expect, test } from "vitest";
import { padBookOf, type ReadyPad, reachOf, readyPad, readyPadNames } from ".";

const demo = demoProject();
let count = 0;
const newId = () => `new-${++count}`;
const done = (edit: Edit, project: Project = demo): Project => {
  const changed = applyEdit(edit, project);
  if (!changed.ok) throw new Error(changed.problem);
  return changed.value;
};
const neck = byId(demo.joints, "neck-turn");
const controlsOf = (project: Project) => project.pads.flatMap(({ controls }) => controls.map(({ id }) => id));

test.each(Object.keys(readyPadNames) as ReadyPad[])(
  "%s is laid out with what it needs, and every control reaches something",
  (ready) => {
    const made = readyPad(ready, demo, neck, newId);
    if (!made.ok) throw new Error(made.problem);
    const { pad, sources, leads } = made.value;
    const project = done(addPad(pad, sources, leads));
    const booked = padBookOf(project).pads.at(-1);
    expect(
      booked?.controls.every(({ control, reaches, label }) => label && (control.kind === "stop" || reaches.length > 0)),
    ).toBe(true);
  },
);

test("a slider that leads to the joint already is taken, and no second one is made", () => {
  const once = readyPad("oneJoint", demo, neck, newId);
  if (!once.ok) throw new Error(once.problem);
  const project = done(addPad(once.value.pad, once.value.sources, once.value.leads));
  const again = readyPad("threePlaces", project, neck, newId);
  expect(again.ok && [again.value.sources.length, again.value.leads.length]).toEqual([0, 0]);
});

test("what a bench has not is said, with where to begin", () => {
  const bare = { ...demo, poses: [], routines: [] };
  expect(readyPad("cues", bare, neck, newId)).toMatchObject({ problem: expect.stringContaining("Poses") });
  expect(readyPad("oneJoint", demo, null, newId)).toMatchObject({ problem: expect.stringContaining("no joint") });
});

describe("what a control can move", () => {
  const control = (id: string) => {
    const found = demo.pads[0]?.controls.find((one) => one.id === id);
    if (!found) throw new Error(id);
    return found;
  };

  test("through leads, poses and routines", () => {
    expect(reachOf(demo, control("pad-turn"))).toEqual(["neck-turn"]);
    expect(reachOf(demo, control("pad-pose-blink"))).toEqual(["left-lid", "right-lid"]);
    expect(reachOf(demo, control("pad-owl")).length).toBeGreaterThan(4);
    expect(reachOf(demo, control("pad-stop"))).toEqual([]);
  });
});

test("what pauses or skips moves whatever plays: a device that may move one joint may not use it", () => {
  for (const kind of ["pause", "next", "previous"] as const) {
    const lead = {
      id: "skip",
      sourceId: "vent-way",
      target: { kind: "action", action: { kind } },
      shapers: [],
      isMuted: false,
    } as const;
    const control = {
      kind: "button",
      id: "b",
      label: "",
      span: { wide: 1, high: 1 },
      isHeldToMove: false,
      sourceId: "vent-way",
      how: "press",
    } as const;
    expect(reachOf({ ...demo, leads: [lead] }, control)).toHaveLength(demo.joints.length);
  }
});

describe("what is taken off the bench takes its controls along, in the same step", () => {
  test.each([
    ["a source", removeSource("bench-knob"), "pad-turn"],
    ["a pose", removePose("pose-watch"), "pad-pose-watch"],
  ])("%s", (_, edit, gone) => {
    const ids = controlsOf(done(edit));
    expect(ids).not.toContain(gone);
    expect(ids).toHaveLength(6);
  });

  test("a joint that a control holds and releases", () => {
    const grip = { kind: "grip", id: "grip", label: "", span: { wide: 1, high: 1 }, jointId: "beak" } as const;
    const project = done(addControl("pad-tawny", grip));
    expect(controlsOf(project)).toContain("grip");
    expect(controlsOf(done(removeJoint("beak"), project))).not.toContain("grip");
  });

  test("what others may ask for goes as well", () => {
    const asked = { ...demo, outside: { ...demo.outside, poseIds: ["pose-watch", "pose-blink"] } };
    expect(done(removePose("pose-watch"), asked).outside.poseIds).toEqual(["pose-blink"]);
  });
});
