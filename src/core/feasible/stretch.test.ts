import { byId, emptyRoutine, type Project, type Routine, type TakeLibrary } from "@core/project";
import { sampleTrack } from "@core/routine";
import type { Step } from "@core/steps";
import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { examine, stretchToFeasible } from ".";
import { bare, demo, move, none, pose, scoreIn, withRoutine } from "./fixtures";

test("once stretched to feasible, every sample is within the speed limit and none jumps, whatever the moves", () => {
  const joints = ["neck-turn", "beak", "left-lid"];
  const stepOf = fc.record({
    targets: fc.tuple(...joints.map(() => fc.integer({ min: 0, max: 30 }))),
    moveMs: fc.integer({ min: 0, max: 600 }),
    holdMs: fc.integer({ min: 0, max: 200 }),
    easing: fc.constantFrom({ kind: "even" }, { kind: "leastJerk" }, { kind: "out" }, { kind: "overshoot", by: 0.1 }),
    staggerMs: fc.integer({ min: 0, max: 90 }),
  });
  fc.assert(
    fc.property(fc.array(stepOf, { minLength: 1, maxLength: 6 }), (drawn) => {
      const poses = drawn.map(({ targets }, at) =>
        pose(`p${at}`, Object.fromEntries(joints.map((id, place) => [id, targets[place] as number]))),
      );
      const steps = drawn.map(({ moveMs, holdMs, easing, staggerMs }, at) =>
        move(`s${at}`, `p${at}`, moveMs, { holdMs, easing, staggerMs }),
      );
      const { project } = withRoutine({ steps }, { ...bare, poses });
      const done = stretchToFeasible("r", none).apply(project);
      if (!done.ok) throw new Error(done.problem);
      const score = scoreIn(done.value);
      for (const [at, track] of score.tracks.entries()) {
        const joint = done.value.joints[track.joint];
        const rated = 60 / byId(done.value.cards, joint?.cardId ?? "").rating.secPer60Deg;
        const limit = joint?.axis.kind === "angle" ? Math.min(joint.axis.speedLimitDegPerS ?? rated, rated) : rated;
        const samples = new Float32Array(Math.floor(score.lengthMs / 5) + 1);
        sampleTrack(track, score.starts[at] as number, 0, 5, samples);
        for (let place = 1; place < samples.length; place += 1) {
          const speed = Math.abs((samples[place] as number) - (samples[place - 1] as number)) / 0.005;
          expect(speed).toBeLessThanOrEqual(limit * 1.005 + 0.01);
        }
      }
    }),
    { numRuns: 60 },
  );
});

test("a clip that is too fast is stretched, a lane gets more time between its keys", () => {
  const take = {
    id: "t",
    name: "T",
    madeAt: "2026-11-23T10:00:00.000Z",
    frameMs: 20,
    frames: 27,
    jointIds: ["neck-turn"],
  };
  // 78° to and fro in half a second: 300 °/s; the neck's limit is 240.
  const samples = Float32Array.from({ length: 27 }, (_, at) => 78 - Math.abs(at - 13) * 6);
  const takes: TakeLibrary = new Map([["t", { id: "t", channels: { "neck-turn": samples } }]]);
  const clip = {
    id: "c",
    takeId: "t",
    atMs: 0,
    fromMs: 0,
    toMs: 520,
    stretch: 1,
    fadeInMs: 0,
    fadeOutMs: 0,
    mode: "add" as const,
    jointIds: null,
    isMuted: false,
  };
  const keys = [0, 50, 0].map((target, at) => ({ atMs: 1000 + at * 100, target, shape: "line" as const }));
  const { project } = withRoutine(
    { clips: [clip], lanes: [{ jointId: "beak", mode: "replace", keys }] },
    { ...bare, takes: [take] },
  );
  const tooFast = (among: Project) =>
    examine(among, scoreIn(among, takes)).findings.filter((one) => one.kind === "speed");
  expect(tooFast(project).flatMap((one) => one.mends.map((mend) => mend.kind))).toEqual(["clip", "lane"]);
  const done = stretchToFeasible("r", takes).apply(project);
  if (!done.ok) throw new Error(done.problem);
  expect(tooFast(done.value)).toEqual([]);
  const [after] = done.value.routines;
  expect(after?.clips[0]?.stretch).toBeCloseTo(1.25, 1);
  // 50° at 428 °/s take 117 ms, each way.
  expect(after?.lanes[0]?.keys.at(-1)?.atMs).toBeGreaterThan(1232);
});

test("a move that goes by its speed is slowed to what its joints can do", () => {
  const fast = { pace: { kind: "speed", degPerS: 400 } };
  const { project } = withRoutine({ steps: [move("1", "left", 0, fast), move("2", "right", 0, fast)] });
  const done = stretchToFeasible("r", none).apply(project);
  if (!done.ok) throw new Error(done.problem);
  expect(examine(done.value, scoreIn(done.value)).findings.filter((one) => one.kind === "speed")).toEqual([]);
  // 240 °/s at most, on a curve that is 1.875 times as fast as its mean.
  expect(byId(done.value.routines, "r").steps[1]).toMatchObject({ pace: { kind: "speed", degPerS: 128 } });
});

test("the demo's lids cannot blink in 0.2 s; stretched, they can", () => {
  const owl = {
    ...demo,
    routines: demo.routines.map((one) => ({ ...one, id: one.id === "routine-owl-wakes" ? "r" : one.id })),
  };
  const speeds = (project: Project) =>
    examine(project, scoreIn(project)).findings.filter((one) => one.kind === "speed");
  expect(speeds(owl).map((one) => one.jointId)).toContain("left-lid");
  const done = stretchToFeasible("r", none).apply(owl);
  expect(done.ok && speeds(done.value)).toEqual([]);
});

describe("stretched to feasible", () => {
  const neckLane = (
    keys: readonly [number, number][],
    mode: "replace" | "add" = "replace",
    shape = "line" as const,
  ) => ({
    jointId: "neck-turn",
    mode,
    keys: keys.map(([atMs, target]) => ({ atMs, target, shape })),
  });
  const fast = (among: Project, takes = none) =>
    examine(among, scoreIn(among, takes)).findings.filter((one) =>
      ["speed", "jump", "acceleration"].includes(one.kind),
    );
  const stretch = (project: Project, takes = none) => {
    const done = stretchToFeasible("r", takes).apply(project);
    if (!done.ok) throw new Error(done.problem);
    expect(fast(done.value, takes)).toEqual([]);
    return byId(done.value.routines, "r");
  };
  /** A take of the neck: 50° and back in a second. */
  const take = {
    id: "t",
    name: "T",
    madeAt: "2026-11-23T10:00:00.000Z",
    frameMs: 20,
    frames: 51,
    jointIds: ["neck-turn"],
  };
  const samples = Float32Array.from({ length: 51 }, (_, at) => 50 - Math.abs(at - 25) * 2);
  const takes: TakeLibrary = new Map([["t", { id: "t", channels: { "neck-turn": samples } }]]);
  const clip = {
    id: "c",
    takeId: "t",
    atMs: 500,
    fromMs: 0,
    toMs: 1000,
    stretch: 1,
    fadeInMs: 30,
    fadeOutMs: 30,
    mode: "replace" as const,
    jointIds: null,
    isMuted: false,
  };

  test("a lane of sixty fast spans, all of them", () => {
    const keys = Array.from({ length: 61 }, (_, at): [number, number] => [at * 50, at % 2 === 0 ? -20 : 20]);
    const after = stretch(withRoutine({ lanes: [neckLane(keys)] }).project);
    // 40° at 240 °/s take 167 ms.
    expect((after.lanes[0]?.keys.at(-1)?.atMs ?? 0) / 60).toBeCloseTo(167, 0);
  });

  test("lanes that shared their moments share them still, and the steps beside them keep in time", () => {
    const keys: [number, number][] = [
      [0, 0],
      [100, 60],
      [600, 0],
      [700, 40],
      [1000, 0],
    ];
    const beak = {
      jointId: "beak",
      mode: "add" as const,
      keys: keys.map(([atMs]) => ({ atMs, target: 0, shape: "line" as const })),
    };
    const steps: Step[] = [{ kind: "hold", id: "1", holdMs: 600 }, move("2", "left", 3000)];
    const after = stretch(withRoutine({ lanes: [neckLane(keys), beak], steps }).project);
    const [a, b] = after.lanes.map((lane) => lane.keys.map((key) => key.atMs));
    expect(a?.slice(0, 4)).toEqual(b?.slice(0, 4));
    expect(a?.[1]).toBeGreaterThan(249);
    expect((after.steps[0] as { holdMs: number }).holdMs).toBeCloseTo(b?.[2] ?? 0, 9);
  });

  test("a clip that is faded in too fast gets a longer fade, and keeps its pace", () => {
    const { project } = withRoutine(
      { clips: [clip], steps: [move("1", "right", 600), { kind: "hold", id: "2", holdMs: 2000 }] },
      { ...bare, takes: [take] },
    );
    const after = stretch(project, takes);
    expect(after.clips[0]?.fadeInMs).toBeGreaterThan(200);
  });

  test("a small lane on top of a move that is too fast, within a second", () => {
    const wobble = Array.from({ length: 21 }, (_, at): [number, number] => [at * 50, at % 2]);
    stretch(
      withRoutine({ lanes: [neckLane(wobble, "add")], steps: [move("1", "left", 300), move("2", "right", 300)] })
        .project,
    );
  });

  test("a routine within another is slowed where it is too fast, also from where the other leaves its joint", () => {
    const inner: Routine = {
      ...emptyRoutine("inner", "Inner"),
      steps: [move("i", "right", 200), move("j", "left", 200)],
    };
    const outer = withRoutine({
      steps: [move("1", "left", 1000), { kind: "routine", id: "2", routineId: "inner", times: 2 }],
    });
    const project = { ...outer.project, routines: [outer.routine, inner] };
    stretch(project);
  });

  test("keys that step get a way, spikes between two looks are seen, and soft ends go where speed cannot come at once", () => {
    const stepping = {
      ...neckLane([
        [0, 0],
        [500, 40],
        [1000, 0],
      ]),
      keys: [0, 40, 0].map((target, at) => ({ atMs: at * 500, target, shape: "step" as const })),
    };
    stretch(withRoutine({ lanes: [stepping] }).project);
    // 8 ms there and back between two looks that are 20 ms apart.
    const spike = withRoutine({
      lanes: [
        neckLane([
          [0, 0],
          [1006, 0],
          [1010, 30],
          [1014, 0],
          [2000, 0],
        ]),
      ],
    }).project;
    expect(fast(spike)).not.toEqual([]);
    stretch(spike);
    const cards = bare.cards.map((card) =>
      card.id === "card-neck-turn" ? { ...card, rating: { ...card.rating, accelDegPerS2: 2000 } } : card,
    ) as Project["cards"];
    const abrupt = withRoutine(
      {
        lanes: [
          neckLane([
            [0, 0],
            [1000, 60],
            [2000, 0],
          ]),
        ],
      },
      { ...bare, cards },
    ).project;
    expect(fast(abrupt)[0]).toMatchObject({ kind: "acceleration", fromMs: 0 });
    stretch(abrupt);
  });

  test("what cannot be stretched is refused with the reason, and nothing is changed", () => {
    const jump: Step = { ...move("1", "left", 3_500_000), staggerMs: 0 } as Step;
    const slow = {
      ...bare,
      joints: bare.joints.map((joint) =>
        joint.id === "neck-turn" && joint.axis.kind === "angle"
          ? { ...joint, axis: { ...joint.axis, speedLimitDegPerS: 0.01 } }
          : joint,
      ),
    };
    const { project } = withRoutine({ steps: [jump] }, slow);
    expect(stretchToFeasible("r", none).apply(project)).toEqual({
      ok: false,
      problem: "Step 1 of R would have to take longer than an hour.",
    });
  });

  test("whatever lies over whatever, it is feasible afterwards, or says why not", () => {
    const keysOf = fc.array(
      fc.record({
        gapMs: fc.integer({ min: 1, max: 400 }),
        target: fc.integer({ min: -60, max: 60 }),
        shape: fc.constantFrom("line", "smooth", "step"),
      }),
      { minLength: 2, maxLength: 12 },
    );
    const clipOf = fc.record({
      atMs: fc.integer({ min: 0, max: 2000 }),
      stretch: fc.constantFrom(0.1, 0.5, 1, 2),
      fadeInMs: fc.constantFrom(0, 5, 100),
      fadeOutMs: fc.constantFrom(0, 40),
      mode: fc.constantFrom("add", "replace"),
    });
    fc.assert(
      fc.property(
        keysOf,
        fc.constantFrom("add", "replace"),
        fc.array(clipOf, { maxLength: 2 }),
        fc.array(fc.integer({ min: 0, max: 500 }), { maxLength: 4 }),
        (drawn, mode, clips, moves) => {
          let atMs = 0;
          const keys = drawn.map(({ gapMs, target, shape }) => {
            atMs += gapMs;
            return { atMs, target, shape };
          });
          const { project } = withRoutine(
            {
              lanes: [{ jointId: "neck-turn", mode, keys }] as Routine["lanes"],
              clips: clips.map((one, at) => ({ ...clip, id: `c${at}`, ...one })) as Routine["clips"],
              steps: moves.map((ms, at) => move(`s${at}`, at % 2 ? "left" : "right", ms)),
            },
            { ...bare, takes: [take] },
          );
          const done = stretchToFeasible("r", takes).apply(project);
          if (!done.ok) expect(done.problem).toMatch(/\.$/);
          else expect(fast(done.value, takes)).toEqual([]);
        },
      ),
      { numRuns: 150 },
    );
  });
});
