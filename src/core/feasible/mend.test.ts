import { demoProject } from "@core/demo";
import { byId, emptyRoutine, type Project, type Routine } from "@core/project";
import { freshMove, type Step } from "@core/steps";
import { expect, test } from "vitest";
import { type Mend, mendEdit, mendWords } from ".";

const demo = demoProject();
const move = (id: string): Step => ({ ...freshMove(id, "pose-watch"), pace: { kind: "time", moveMs: 500 } }) as Step;
const routine: Routine = {
  ...emptyRoutine("r", "R"),
  steps: [move("1"), { kind: "label", id: "2", text: "here" }, move("3")],
  lanes: [
    {
      jointId: "neck-turn",
      mode: "replace",
      keys: [
        { atMs: 0, target: -100, shape: "line" },
        { atMs: 1000, target: 20, shape: "line" },
        { atMs: 1400, target: 90, shape: "line" },
        { atMs: 3000, target: 0, shape: "line" },
      ],
    },
  ],
  clips: [
    {
      id: "c",
      takeId: "take",
      atMs: 0,
      fromMs: 0,
      toMs: 2000,
      stretch: 1,
      fadeInMs: 300,
      fadeOutMs: 0,
      mode: "replace",
      jointIds: null,
      isMuted: false,
    },
  ],
};
const take = {
  id: "take",
  name: "Take",
  madeAt: "2026-03-01T10:00:00Z",
  frameMs: 20,
  frames: 101,
  jointIds: ["neck-turn"],
};
const project: Project = { ...demo, routines: [routine], takes: [take] };
function mended(mend: Mend): Routine {
  const changed = mendEdit(routine, mend).apply(project);
  if (!changed.ok) throw new Error(changed.problem);
  return byId(changed.value.routines, "r");
}
const step = (mend: Mend, id = "1") => mended(mend).steps.find((one) => one.id === id);
const keys = (mend: Mend) => mended(mend).lanes[0]?.keys.map(({ atMs, target }) => [atMs, target]);

test("a move is given its time, its speed, soft ends, a hold, a stagger, a wait for one joint", () => {
  expect(step({ kind: "moveMs", stepId: "1", moveMs: 940 })).toMatchObject({ pace: { kind: "time", moveMs: 940 } });
  expect(step({ kind: "speed", stepId: "1", degPerS: 127 })).toMatchObject({ pace: { kind: "speed", degPerS: 127 } });
  expect(step({ kind: "soft", stepId: "1", moveMs: 1320 })).toMatchObject({
    pace: { kind: "time", moveMs: 1320 },
    easing: { kind: "leastJerk" },
  });
  expect(step({ kind: "holdMs", stepId: "3", holdMs: 250 }, "3")).toMatchObject({ holdMs: 250 });
  expect(step({ kind: "stagger", stepId: "1", staggerMs: 120 })).toMatchObject({ staggerMs: 120 });
  expect(step({ kind: "delay", stepId: "1", jointId: "beak", delayMs: 80 })).toMatchObject({ delaysMs: { beak: 80 } });
});

test("only the step that was meant is another afterwards", () => {
  const after = mended({ kind: "moveMs", stepId: "1", moveMs: 940 });
  expect(after.steps.slice(1)).toEqual(routine.steps.slice(1));
});

test("keys between two moments take twice the time; what follows comes later by as much, what went before stays", () => {
  expect(keys({ kind: "lane", jointId: "neck-turn", fromMs: 1000, toMs: 1400, factor: 2 })).toEqual([
    [0, -100],
    [1000, 20],
    [1800, 90],
    [3400, 0],
  ]);
});

test("keys are drawn in to the limits; one more is set where the moves have the joint", () => {
  expect(keys({ kind: "laneWithin", jointId: "neck-turn", low: -80, high: 80 })).toEqual([
    [0, -80],
    [1000, 20],
    [1400, 80],
    [3000, 0],
  ]);
  expect(keys({ kind: "laneKey", jointId: "neck-turn", atMs: 500, target: 7, shape: "smooth" })).toContainEqual([
    500, 7,
  ]);
});

test("a pose is put right itself; a clip is stretched, and fades grow, never shrink", () => {
  const posed = mendEdit(routine, { kind: "poseTarget", poseId: "pose-watch", jointId: "neck-turn", target: 80 }).apply(
    project,
  );
  expect(posed.ok && byId(posed.value.poses, "pose-watch").targets["neck-turn"]).toBe(80);
  expect(mended({ kind: "clip", clipId: "c", stretch: 1.4 }).clips[0]).toMatchObject({ stretch: 1.4 });
  expect(mended({ kind: "fade", clipId: "c", fadeInMs: 200, fadeOutMs: 200 }).clips[0]).toMatchObject({
    fadeInMs: 300,
    fadeOutMs: 200,
  });
});

test.each<[Mend, string]>([
  [{ kind: "moveMs", stepId: "1", moveMs: 940 }, "Give it 0.94 s"],
  [{ kind: "speed", stepId: "1", degPerS: 127.9 }, "Let it go at 127 °/s"],
  [{ kind: "soft", stepId: "1", moveMs: 1320 }, "Start and end softly, in 1.32 s"],
  [{ kind: "holdMs", stepId: "1", holdMs: 50 }, "Hold for 0.05 s"],
  [{ kind: "stagger", stepId: "1", staggerMs: 119.6 }, "Start one after another, 120 ms apart"],
  [{ kind: "delay", stepId: "1", jointId: "beak", delayMs: 80 }, "Let it wait 0.08 s"],
  [{ kind: "poseTarget", poseId: "p", jointId: "beak", target: -7.25 }, "Make it -7.3° in the pose"],
  [{ kind: "clip", clipId: "c", stretch: 1.4 }, "Stretch the clip to 140 %"],
  [{ kind: "lane", jointId: "beak", fromMs: 0, toMs: 1, factor: 2 }, "Give these keys more time"],
  [{ kind: "laneWithin", jointId: "beak", low: 0, high: 1 }, "Draw the keys in to the limits"],
  [{ kind: "laneKey", jointId: "beak", atMs: 0, target: 1, shape: "smooth" }, "Add a key where the moves have it"],
  [{ kind: "fade", clipId: "c", fadeInMs: 100, fadeOutMs: 250 }, "Fade the clip over 0.25 s"],
])("its button says what it does: %o", (mend, words) => expect(mendWords(mend)).toBe(words));
