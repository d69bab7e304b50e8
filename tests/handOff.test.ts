import { demoProject } from "@core/demo";
import { handOff, machineOf } from "@core/handOff";
import { byId, emptyRoutine, type Project, setWindow, usualHandOff } from "@core/project";
import { freshMove } from "@core/steps";
import { expect, test } from "vitest";
import { benchFrames, runC, runPython, saidFrames } from "./fuzz/handedOff";
import { eventDifference, handOffDifference } from "./fuzz/handOff";
import { randomRig } from "./fuzz/randomRig";
import { wiredRig } from "./fuzz/wiredRig";

const demo = demoProject();
const owl = byId(demo.routines, "routine-owl-wakes");
const onlyOwl: Project = { ...demo, routines: [owl] };

test.each(["c", "python"] as const)(
  "the demo's owl in %s: every frame and every angle is the bench's own count",
  (language) => {
    const same = handOffDifference(onlyOwl, [], language, { frames: 600, targets: language === "c" ? 20_000 : 2000 });
    expect(typeof same === "string" ? same : same > 6 * 600).toBe(true);
  },
);

test.each(["c", "python"] as const)(
  "the demo's owl in whole numbers in %s: every frame and every angle within the count that is said of it",
  (language) => {
    const looks = { frames: 600, targets: language === "c" ? 20_000 : 2000 };
    const same = handOffDifference(onlyOwl, [], language, looks, "whole");
    expect(typeof same === "string" ? same : same > 6 * 600).toBe(true);
    const made = handOff({ ...onlyOwl, handOff: { ...onlyOwl.handOff, language, numbers: "whole" } }, new Map());
    expect(made.ok && made.value.sums.worstCounts).toBe(1);
    expect(made.ok && made.value.files.every(({ text }) => !/\b(?:double|float)\b/.test(text))).toBe(true);
  },
);

test("in C it holds under both sanitizers, and the owl really moves", () => {
  const made = machineOf(onlyOwl, { jointIds: [], poseIds: [], routineIds: [owl.id] }, new Map());
  if (!made.ok) throw new Error(made.problem);
  const said = runC(made.value, ["p 0 500"], "real", true);
  expect(new Set(said).size).toBeGreaterThan(150);
  expect(saidFrames(made.value, said)).toEqual(benchFrames(onlyOwl, [], made.value, { kind: "routine", at: 0 }, 500));
});

test("packets that stuff bytes in, under both sanitizers (a run was looked for before the first byte)", () => {
  const { project, takes } = wiredRig(4);
  const jointIds = project.joints.map(({ id }) => id);
  const made = machineOf(
    project,
    { jointIds, poseIds: [], routineIds: [] },
    new Map(takes.map((take) => [take.id, take])),
  );
  if (!made.ok) throw new Error(made.problem);
  for (const numbers of ["real", "whole"] as const)
    expect(runC(made.value, ["p 0 50"], numbers, true)).toHaveLength(50);
});

test.each([3, 7, 10, 12, 18, 24])(
  "rig %i, made up, with all kinds of boards, curves, easings, lanes and takes: the same in C and in Python",
  (seed) => {
    const { project, takes } = randomRig(seed);
    for (const language of ["c", "python"] as const)
      expect(handOffDifference(project, takes, language, { frames: 300, targets: 300 })).toEqual(expect.any(Number));
  },
);

test.each([4, 20, 43, 192])(
  "rig %i with smart servos of made-up families: every goal on the wire, in C and in Python, is the bench's own; in whole numbers as near as is said",
  (seed) => {
    const { project, takes } = wiredRig(seed);
    for (const language of ["c", "python"] as const)
      for (const numbers of ["real", "whole"] as const)
        expect(handOffDifference(project, takes, language, { frames: 200, targets: 100 }, numbers)).toEqual(
          expect.any(Number),
        );
  },
);

test.each([16, 23, 31, 52])(
  "rig %i with leads: knobs, presses, hands, poses, routines, stops and releases in any order give the bench's own counts",
  (seed) => {
    for (const language of ["c", "python"] as const)
      expect(eventDifference(seed, language, 300)).toEqual(expect.any(Number));
  },
);

test.each(["c", "python"] as const)(
  "in %s what a lead makes of a number beyond all bounds moves nothing, and breaks nothing",
  (language) => {
    const lead = byId(demo.leads, "lead-knob-turn");
    const far = { kind: "scale" as const, by: 1e300 };
    const ends = { kind: "rangeMap" as const, from: { low: 0, high: 1000 }, to: { low: -70, high: 70 } };
    const chains = [
      [far, far, { kind: "detents" as const, stepsPerDetent: 4 }, ends],
      [far, far, { kind: "limit" as const, how: "wrap" as const, range: { low: 0, high: 1000 } }, ends],
      [far, { kind: "detents" as const, stepsPerDetent: 1 }, ends],
    ];
    for (const shapers of chains) {
      const project: Project = { ...onlyOwl, leads: [{ ...lead, shapers }] };
      const made = machineOf(
        project,
        { jointIds: ["neck-turn"], poseIds: [], routineIds: [], leadIds: [lead.id] },
        new Map(),
      );
      if (!made.ok) throw new Error(made.problem);
      const lines = ["e 0 3", "1 h 0 0", "1 f 0 700", "1 f 0 -700"];
      const said = language === "c" ? runC(made.value, lines, "real", true) : runPython(made.value, lines);
      const window = made.value.joints[0]?.window ?? { low: 0, high: 0 };
      for (const [count = 0] of saidFrames(made.value, said)) {
        const pulseUs = (made.value.joints[0]?.counts.gain ?? 0) * count;
        expect(pulseUs >= window.low && pulseUs <= window.high).toBe(true);
      }
    }
  },
);

test("a routine of a lane alone, without a step (found by 200 made-up rigs: it read a step that was not there)", () => {
  const keys = [0, 700, 1500].map((atMs, at) => ({ atMs, target: 20 * at - 15, shape: "smooth" as const }));
  const lanes = [{ jointId: "neck-nod", mode: "replace" as const, keys }];
  const bare: Project = { ...demo, routines: [{ ...emptyRoutine("lane", "Lane"), lanes }] };
  for (const language of ["c", "python"] as const)
    expect(handOffDifference(bare, [], language, { frames: 150, targets: 10 })).toEqual(expect.any(Number));
});

test("a hand that is led straight and round goes the same way in code, as near as is said of its keys", () => {
  const pose = (id: string, turntable: number) => ({
    id,
    name: id,
    group: "",
    targets: { turntable, shoulder: 30, elbow: 80 },
  });
  const step = (id: string, poseId: string, viaMm: [number, number, number] | null) => ({
    ...freshMove(id, poseId),
    pace: { kind: "time" as const, moveMs: 1500 },
    holdMs: 200,
    path: { tipId: "trellis-grip", viaMm, mmPerS: null },
  });
  const steps = [freshMove("a", "left"), step("b", "right", null), step("c", "left", [120, -60, 120])];
  const ledArm: Project = {
    ...demo,
    poses: [pose("left", -40), pose("right", 40)],
    routines: [{ ...emptyRoutine("led", "Led"), steps }],
    leads: [],
    pads: [],
  };
  for (const language of ["c", "python"] as const) {
    const same = handOffDifference(ledArm, [], language, { frames: 260, targets: 10 });
    expect(typeof same === "string" ? same : same > 5 * 260).toBe(true);
  }
});

test.each(["3 arms", "for", "let", "首", "*/ /* \u202E", "Count"])(
  "a project called %j, with joints, poses and a routine called so as well",
  (name) => {
    const called: Project = {
      ...onlyOwl,
      name,
      joints: onlyOwl.joints.map((joint) => ({ ...joint, label: name })),
      poses: onlyOwl.poses.map((pose) => ({ ...pose, name })),
      routines: [{ ...owl, name }],
    };
    for (const language of ["c", "python"] as const)
      expect(handOffDifference(called, [], language, { frames: 20, targets: 3 })).toEqual(expect.any(Number));
  },
);

test("without a routine it compiles as well (a function that nothing used)", () => {
  expect(handOffDifference({ ...demo, routines: [] }, [], "c", { frames: 0, targets: 10 })).toEqual(expect.any(Number));
});

test("the same project gives the same text, and another limit another", () => {
  const text = (project: Project) => {
    const made = handOff(project, new Map());
    return made.ok ? made.value.files.map((file) => file.text).join() : made.problem;
  };
  expect(text(structuredClone(onlyOwl))).toBe(text(onlyOwl));
  const narrower = setWindow("card-neck-turn", 900, 2100).apply(onlyOwl);
  expect(narrower.ok && text(narrower.value)).not.toBe(text(onlyOwl));
});

test("what cannot be taken along is refused by name; the rest is taken", () => {
  const made = handOff(demo, new Map());
  expect(made.ok && made.value.sums).toMatchObject({ routines: 2, joints: 12, leads: 3 });
  const nothing = handOff(
    { ...demo, handOff: { ...demo.handOff, leftOut: [...demo.joints, ...demo.routines].map(({ id }) => id) } },
    new Map(),
  );
  expect(nothing).toEqual({ ok: false, problem: "Choose at least one joint: code without one does nothing." });
});

test.each([1e-8, 1e6])(
  "a speed limit of %d °/s, which whole numbers would make none or overrun, is refused in words",
  (speedLimitDegPerS) => {
    const joints = onlyOwl.joints.map((joint) =>
      joint.axis.kind === "angle" ? { ...joint, axis: { ...joint.axis, speedLimitDegPerS } } : joint,
    );
    const made = handOff({ ...onlyOwl, joints, handOff: { ...onlyOwl.handOff, numbers: "whole" } }, new Map());
    expect(made.ok ? "" : made.problem).toContain("Write the code in floating point.");
  },
);

test("a take whose samples are not here is named, also where a routine within plays it", () => {
  const { project } = rigWithTake();
  const inner = project.routines.find(({ clips }) => clips.length > 0);
  const steps = [{ kind: "routine" as const, id: "in", routineId: inner?.id ?? "", times: 1 }];
  const outer = { ...emptyRoutine("outer", "Outer"), steps };
  const made = handOff({ ...project, routines: [...project.routines, outer] }, new Map());
  expect(made.ok && made.value.refused).toContain(
    "Outer plays the take “Take”, whose samples are not here. Remove its clip, or leave the routine out.",
  );
});

test.each([
  ["set_count({chanel}, {count});", "The line that sets a pin names {chanel}."],
  ["set_count(3, {count});", "does not say which: put {channel}"],
  ["set_count({board}, {channel});", "does not say to what"],
  ["set_count({channel}, {count});", "on 2 boards (Fern, Pebble): say which in both lines with {board}"],
  ["", "Without a line that sets a pin, nothing is driven."],
])("own lines that cannot work are refused in words: %s", (set, words) => {
  const lines = { ...usualHandOff.lines, c: { ...usualHandOff.lines.c, set } };
  const made = handOff({ ...onlyOwl, handOff: { ...usualHandOff, lines } }, new Map());
  expect(made.ok ? "" : made.problem).toContain(words);
});

/** The first made-up rig that has a take in a routine. */
function rigWithTake() {
  for (let seed = 1; ; seed += 1) {
    const rig = randomRig(seed);
    if (rig.project.routines.some(({ clips }) => clips.length > 0)) return rig;
  }
}
