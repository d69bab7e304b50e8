import {
  addClip,
  addJoint,
  addPose,
  addTake,
  allOf,
  byId,
  type Clip,
  changeClip,
  changeStep,
  emptyRoutine,
  groupPoses,
  insertSteps,
  layClip,
  nudgePoses,
  type Project,
  placePose,
  type Routine,
  removeClips,
  removeCondition,
  removeJoint,
  removePose,
  removeRoutine,
  removeSource,
  removeSteps,
  removeSupply,
  removeTake,
  renameTake,
  ringIn,
  routinesWithin,
  setCondition,
  setKeys,
  setLaneMode,
  setMirror,
  setPoseTargets,
  setRoutine,
  setSupply,
} from "@core/project";
import { freshMove, type Step } from "@core/steps";
import { describe, expect, test } from "vitest";
import { demo, done, refusal } from "./onDemo";

const owl = (project: Project): Routine => byId(project.routines, "routine-owl-wakes");
const take = {
  id: "t",
  name: "Take 1",
  madeAt: "2026-11-23T10:00:00.000Z",
  frameMs: 20,
  frames: 101,
  jointIds: ["beak"],
};
const clip: Clip = {
  id: "c",
  takeId: "t",
  atMs: 500,
  fromMs: 0,
  toMs: 2000,
  stretch: 1,
  fadeInMs: 0,
  fadeOutMs: 0,
  mode: "replace",
  jointIds: null,
  isMuted: false,
};
const withTake = done(allOf("", [addTake(take), addClip("routine-owl-wakes", clip)]));

describe("steps", () => {
  test("are put in, changed, and taken out, several at once", () => {
    const hold: Step = { kind: "hold", id: "h", holdMs: 300 };
    const more = done(insertSteps("routine-owl-wakes", [hold, { kind: "label", id: "l", text: "Look" }], 2));
    expect(
      owl(more)
        .steps.map((step) => step.id)
        .slice(1, 5),
    ).toEqual(["wake-2", "h", "l", "wake-3"]);
    const longer = done(
      changeStep("routine-owl-wakes", "h", "hold", (step) => ({ ...step, holdMs: 900 }) as Step),
      more,
    );
    expect(owl(longer).steps[2]).toEqual({ ...hold, holdMs: 900 });
    expect(owl(done(removeSteps("routine-owl-wakes", new Set(["h", "l"])), longer)).steps).toEqual(owl(demo).steps);
  });
  test.each<[string, (step: Step) => Step, string]>([
    ["a hold of two hours", (step) => ({ ...step, holdMs: 7_200_000 }) as Step, "at most 3600000"],
    ["a negative time", (step) => ({ ...step, pace: { kind: "time", moveMs: -1 } }) as Step, "at least 0"],
    [
      "a drawn easing that ends elsewhere",
      (step) =>
        ({
          ...step,
          easing: {
            kind: "drawn",
            points: [
              { x: 0, y: 0 },
              { x: 1, y: 0.5 },
            ],
          },
        }) as Step,
      "runs from 0, 0 to 1, 1",
    ],
  ])("%s is refused", (_, change, says) => {
    expect(refusal(changeStep("routine-owl-wakes", "wake-1", "step", change))).toContain(says);
  });
  test("a move to a pose that is not there, or a step that is gone, is refused", () => {
    expect(refusal(insertSteps("routine-owl-wakes", [freshMove("x", "pose-gone")], 0))).toContain("is not there");
    expect(refusal(changeStep("routine-owl-wakes", "gone", "x", (step) => step))).toContain("no longer there");
  });
  test("a routine that would play itself is refused, through others as well", () => {
    const plays = (id: string, routineId: string): Step => ({ kind: "routine", id, routineId, times: 1 });
    const first = done(insertSteps("routine-owl-wakes", [plays("p", "routine-tray")], 0));
    expect(refusal(insertSteps("routine-tray", [plays("q", "routine-owl-wakes")], 0), first)).toContain(
      "Owl wakes plays Carry a tray plays Owl wakes, without end",
    );
    expect(ringIn(first.routines)).toBeNull();
    expect(routinesWithin(first, "routine-owl-wakes")).toHaveLength(2);
    expect(routinesWithin(first, "routine-tray")).toHaveLength(1);
    // Deleted, it leaves the routine that played it without that step.
    expect(owl(done(removeRoutine("routine-tray"), first)).steps).toHaveLength(7);
  });
  test("how it repeats and ends is one edit each", () => {
    const set = done(setRoutine("routine-owl-wakes", "end", { atEnd: "release", isThereAndBack: true }));
    expect(owl(set)).toMatchObject({ atEnd: "release", isThereAndBack: true, repeat: { kind: "times", times: 1 } });
  });
});

describe("lanes and clips", () => {
  const key = (atMs: number, target: number) => ({ atMs, target, shape: "line" as const });
  test("keys are kept in order, the later of two at one moment; none at all is no lane", () => {
    const made = done(setKeys("routine-owl-wakes", "beak", [key(300, 3), key(100, 1), key(300, 4)]));
    expect(owl(made).lanes).toEqual([{ jointId: "beak", mode: "replace", keys: [key(100, 1), key(300, 4)] }]);
    expect(owl(done(setLaneMode("routine-owl-wakes", "beak", "add"), made)).lanes[0]?.mode).toBe("add");
    expect(owl(done(setKeys("routine-owl-wakes", "beak", []), made)).lanes).toEqual([]);
    expect(refusal(setKeys("routine-owl-wakes", "beak", [key(-5, 0)]))).toContain("at least 0");
  });
  test("a clip is stretched, trimmed, laid over others, and taken away", () => {
    const change = (what: Partial<Clip>) =>
      changeClip("routine-owl-wakes", "c", "clip", (one) => ({ ...one, ...what }));
    expect(owl(done(change({ stretch: 2, fromMs: 500 }), withTake)).clips[0]).toMatchObject({
      stretch: 2,
      fromMs: 500,
    });
    expect(refusal(change({ toMs: 2500 }), withTake)).toBe("The take is only 2.00 s long.");
    expect(refusal(change({ fromMs: 2000 }), withTake)).toContain("needs a part of its take");
    expect(refusal(change({ fadeInMs: 1500, fadeOutMs: 800 }), withTake)).toContain("longer than the clip");
    const two = done(addClip("routine-owl-wakes", { ...clip, id: "d" }), withTake);
    expect(owl(done(layClip("routine-owl-wakes", "d", -1), two)).clips.map((one) => one.id)).toEqual(["d", "c"]);
    expect(owl(done(layClip("routine-owl-wakes", "d", 1), two)).clips.map((one) => one.id)).toEqual(["c", "d"]);
    expect(owl(done(removeClips("routine-owl-wakes", new Set(["c"])), two)).clips).toHaveLength(1);
    expect(refusal(addClip("routine-owl-wakes", { ...clip, id: "e", takeId: "gone" }), withTake)).toContain(
      "needs a take",
    );
  });
  test("a deleted take goes with its clips; a renamed one stays", () => {
    expect(owl(done(removeTake("t"), withTake)).clips).toEqual([]);
    expect(done(renameTake("t", " Nod "), withTake).takes[0]?.name).toBe("Nod");
    expect(refusal(renameTake("t", "  "), withTake)).toContain("at least one character");
  });
});

test("a joint that is removed goes out of lanes, delays, takes, what must not meet, and left and right", () => {
  const edits = [
    setKeys("routine-owl-wakes", "beak", [{ atMs: 0, target: 0, shape: "line" }]),
    changeStep("routine-owl-wakes", "wake-1", "delay", (step) => ({ ...step, delaysMs: { beak: 100 } }) as Step),
    setMirror("tawny", [{ kind: "middle", jointId: "beak" }]),
  ];
  const gone = done(removeJoint("beak"), done(allOf("", edits), withTake));
  expect(owl(gone)).toMatchObject({ lanes: [], clips: [] });
  expect(owl(gone).steps[0]).toMatchObject({ delaysMs: {} });
  expect(gone).toMatchObject({ takes: [], conditions: [] });
  expect(byId(gone.rigs, "tawny").mirror).toEqual([]);
});

test("a source that is removed takes the waits for it along", () => {
  const wait: Step = {
    kind: "wait",
    id: "w",
    sourceId: "bench-knob",
    side: "above",
    level: 5,
    timeoutMs: null,
    ifTimeout: "stop",
  };
  const waiting = done(insertSteps("routine-owl-wakes", [wait], 0));
  expect(owl(done(removeSource("bench-knob"), waiting)).steps).toHaveLength(7);
});

describe("poses", () => {
  const ids = (project: Project) => project.poses.map((pose) => pose.id.replace("pose-", ""));
  test("are added after another, put elsewhere, and take on the heading of where they go", () => {
    const copy = done(addPose({ id: "pose-new", name: "New", group: "", targets: { beak: 1 } }, "Copy", "pose-watch"));
    expect(ids(copy).slice(0, 3)).toEqual(["watch", "new", "look-left"]);
    const moved = done(placePose("pose-new", "pose-arm-grasp"), copy);
    expect(ids(moved).indexOf("new")).toBe(ids(moved).indexOf("arm-grasp") - 1);
    expect(byId(moved.poses, "pose-new").group).toBe("Trellis");
    expect(ids(done(placePose("pose-watch", null))).at(-1)).toBe("watch");
    expect(done(placePose("pose-watch", "pose-watch"))).toBe(demo);
  });
  test("are nudged together, where they have the joint, without tenths going astray", () => {
    const chosen = new Set(["pose-watch", "pose-blink", "pose-call"]);
    let nudged = demo;
    for (let times = 0; times < 3; times += 1)
      nudged = done(nudgePoses(chosen, new Set(["beak", "left-lid"]), 0.1), nudged);
    expect(byId(nudged.poses, "pose-watch").targets).toMatchObject({ beak: 0.3, "left-lid": 50.3, "right-lid": 50 });
    expect(byId(nudged.poses, "pose-blink").targets).toEqual({ "left-lid": 0.3, "right-lid": 0 });
    expect(byId(nudged.poses, "pose-look-left")).toBe(byId(demo.poses, "pose-look-left"));
  });
  test("get headings and new numbers several at a time", () => {
    const grouped = done(groupPoses(new Set(["pose-watch", "pose-call"]), " Awake "));
    expect(grouped.poses.filter((pose) => pose.group === "Awake")).toHaveLength(2);
    expect(refusal(groupPoses(new Set(["pose-watch"]), "x".repeat(81)))).toContain("at most 80");
    const pasted = done(setPoseTargets("Paste", new Map([["pose-blink", { beak: 5 }]])));
    expect(byId(pasted.poses, "pose-blink").targets).toEqual({ "left-lid": 0, "right-lid": 0, beak: 5 });
  });
  test("that are deleted go out of every routine", () => {
    expect(owl(done(removePose("pose-blink"))).steps).toHaveLength(5);
  });
});

describe("what a rig must keep to", () => {
  test("a joint stands once in left and right", () => {
    expect(
      refusal(
        setMirror("tawny", [
          { kind: "middle", jointId: "left-lid" },
          { kind: "pair", leftId: "left-lid", rightId: "right-lid", sign: 1 },
        ]),
      ),
    ).toContain("stands once");
  });
  test("conditions and supplies are set, changed and removed", () => {
    const condition = {
      id: "x",
      while: { jointId: "beak", side: "above" as const, target: 3 },
      stays: { jointId: "neck-nod", side: "below" as const, target: 1 },
    };
    const two = done(setCondition(condition));
    expect(two.conditions).toHaveLength(2);
    expect(done(setCondition({ ...condition, stays: { ...condition.stays, target: 2 } }), two).conditions).toHaveLength(
      2,
    );
    expect(done(removeCondition("x"), two).conditions).toEqual(demo.conditions);
    const gives = { kind: "adapter", volts: 5 } as const;
    const fed = done(setSupply({ id: "new", label: "New", limitMa: 1000, gives }));
    expect(byId(fed.supplies, "new").gives).toEqual(gives);
    expect(refusal(setSupply({ id: "new", label: "New", limitMa: 0, gives }))).toContain("more than 0");
    expect(done(removeSupply("new"), fed).supplies).toEqual(demo.supplies);
  });
});

test("an empty routine fits every project, and a joint may be added beside it", () => {
  const project = { ...demo, routines: [emptyRoutine("e", "E")], pads: [] };
  const joint = {
    ...byId(demo.joints, "beak"),
    id: "second-beak",
    label: "Second beak",
    channel: 11,
    cardId: "card-2",
  };
  const card = { ...byId(demo.cards, "card-beak"), id: "card-2", label: "Card 2" };
  expect(done(addJoint({ joint, card }), project).joints).toHaveLength(13);
});
