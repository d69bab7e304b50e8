import { demoProject } from "@core/demo";
import { emptyRoutine, type Project, type Routine } from "@core/project";
import { noRoutine, phase } from "@core/routine";
import { freshMove, type Step } from "@core/steps";
import { expect, test } from "vitest";
import { type Command, Engine, headOf, jointOf, owner, recordingStages, shapeOf, snapshotLength } from ".";

const demo = demoProject();
const move = (id: string, poseId: string, moveMs: number): Step => ({
  ...freshMove(id, poseId),
  pace: { kind: "time", moveMs },
});
const routine = (change: Partial<Routine>): Routine => ({ ...emptyRoutine("r", "R"), ...change });
const withRoutine = (change: Partial<Routine>): Project => ({ ...demo, routines: [routine(change)] });

/** An engine with everything held at home, its clock in the test's hand. */
function held(project: Project = demo) {
  const engine = new Engine();
  engine.configure(project, 1);
  const snapshot = new Float64Array(snapshotLength(shapeOf(project)));
  let nowMs = 0;
  const bench = {
    engine,
    give: (command: Command) => engine.apply(command),
    run(ms: number, each: (nowMs: number) => void = () => {}) {
      for (const endMs = nowMs + ms; nowMs < endMs; nowMs += 20) {
        each(nowMs);
        engine.tick(nowMs);
      }
      engine.write(snapshot);
    },
    head: (field: Parameters<typeof headOf>[1]) => headOf(snapshot, field),
    read: (jointId: string, field: Parameters<typeof jointOf>[2]) =>
      jointOf(
        snapshot,
        project.joints.findIndex((joint) => joint.id === jointId),
        field,
      ),
  };
  bench.give({ kind: "holdAll" });
  bench.run(100);
  return bench;
}

const alone = { kind: "record", routineId: null, fromMs: 0, countInMs: 0, punch: null } as const;

test("what a hand does is recorded as it left the gate: from the first frame to the end, 20 ms apart", () => {
  const { give, run, head, engine } = held();
  give({ ...alone, jointIds: ["beak"] });
  run(60);
  expect(head("recording")).toBe(recordingStages.running);
  let deg = 0;
  run(1000, () => {
    deg += 0.5;
    give({ kind: "target", jointId: "beak", target: deg });
  });
  give({ kind: "endRecord" });
  const recorded = engine.takeRecorded();
  expect(engine.takeRecorded()).toBeNull();
  expect(recorded).toMatchObject({ jointIds: ["beak"], frameMs: 20, fromMs: 0 });
  expect(recorded?.channels[0]?.length).toBeGreaterThan(49);
  expect(recorded?.channels[0]?.at(-1)).toBeGreaterThan(24);
});

test("after a count-in of a second, and not before", () => {
  const { give, run, head } = held();
  give({ ...alone, jointIds: ["beak"], countInMs: 1000 });
  run(500);
  expect(head("recording")).toBe(recordingStages.countIn);
  expect(head("phaseMs")).toBeGreaterThan(400);
  run(600);
  expect(head("recording")).toBe(recordingStages.running);
});

test("the others play while one is recorded over them, and the take lies on the routine's own time", () => {
  const project = withRoutine({ steps: [move("1", "pose-look-left", 1500), move("2", "pose-watch", 1500)] });
  const { give, run, read, engine } = held(project);
  give({ ...alone, routineId: "r", jointIds: ["beak"] });
  run(1600);
  expect(read("neck-turn", "owner")).toBe(owner.routine);
  expect(read("beak", "owner")).toBe(owner.nobody);
  expect(read("neck-turn", "target")).toBeLessThan(-50);
  give({ kind: "target", jointId: "beak", target: 20 });
  // It goes on when the routine is over, until somebody ends it.
  run(3000);
  give({ kind: "endRecord" });
  const recorded = engine.takeRecorded();
  const channel = recorded?.channels[0] ?? new Float32Array(0);
  expect(channel.length * 20).toBeGreaterThan(4000);
  const first = channel.findIndex((deg) => deg > 0.01) * 20;
  expect(Math.abs(first - 1540)).toBeLessThanOrEqual(100);
});

test("punched in from 500 to 1000 ms: played before, free within, and the take is that part", () => {
  const project = withRoutine({ steps: [move("1", "pose-look-left", 1000), move("2", "pose-watch", 1000)] });
  const { give, run, read, head, engine } = held(project);
  give({ ...alone, routineId: "r", jointIds: ["neck-turn"], punch: { fromMs: 500, toMs: 1000 } });
  run(300);
  expect(read("neck-turn", "owner")).toBe(owner.routine);
  run(400);
  expect(read("neck-turn", "owner")).toBe(owner.nobody);
  give({ kind: "target", jointId: "neck-turn", target: 10 });
  run(600);
  expect(head("recording")).toBe(recordingStages.none);
  const recorded = engine.takeRecorded();
  expect(recorded?.fromMs).toBe(500);
  expect(recorded?.channels[0]?.length).toBe(26);
});

test("Esc in the middle of a take releases everything, and what was recorded is kept", () => {
  const { give, run, read, engine } = held();
  give({ ...alone, jointIds: ["beak", "neck-turn"] });
  run(600);
  give({ kind: "releaseAll" });
  run(20);
  expect(read("beak", "isHeld")).toBe(0);
  expect(engine.takeRecorded()?.channels).toHaveLength(2);
});

test("a limp joint, a joint that is not there, or none at all is refused in words", () => {
  const { give } = held();
  give({ kind: "release", jointId: "beak" });
  const says = (jointIds: string[]) => {
    const done = give({ ...alone, jointIds });
    return done.ok ? "" : done.problem;
  };
  expect(says(["beak"])).toContain("Beak is released: there is nothing to record");
  expect(says([])).toContain("Choose the joints");
  expect(says(["tail"])).toContain("Choose the joints");
});

test("a routine that ends with a release leaves its joints limp, and only those", () => {
  const { give, run, read, head } = held(withRoutine({ steps: [move("1", "pose-blink", 400)], atEnd: "release" }));
  give({ kind: "play", routineId: "r" });
  run(1000);
  expect(head("routineIndex")).toBe(noRoutine);
  expect(read("left-lid", "isHeld")).toBe(0);
  expect(read("beak", "isHeld")).toBe(1);
});

test("it waits for the knob, and goes on when that is turned", () => {
  const wait: Step = {
    kind: "wait",
    id: "w",
    sourceId: "bench-knob",
    side: "above",
    level: 500,
    timeoutMs: null,
    ifTimeout: "goOn",
  };
  const project = { ...withRoutine({ steps: [wait, move("1", "pose-blink", 400)] }), leads: [] };
  const { give, run, read, head } = held(project);
  give({ kind: "play", routineId: "r" });
  run(5000);
  expect(head("phase")).toBe(phase.waiting);
  give({ kind: "source", sourceId: "bench-knob", value: 900 });
  run(600);
  expect(read("left-lid", "target")).toBeCloseTo(0, 6);
});

test("one key plays, pauses and goes on, and another holds and releases: the engine knows which, however old the picture is that a page has", () => {
  const { give, run, read, head } = held(withRoutine({ steps: [move("1", "pose-look-left", 2000)] }));
  const p = { kind: "playOrPause", routineId: "r", fromMs: 0 } as const;
  give(p);
  run(500);
  expect(head("phase")).toBe(phase.playing);
  give(p);
  run(100);
  expect(head("phase")).toBe(phase.paused);
  give(p);
  run(100);
  expect(head("phase")).toBe(phase.playing);
  for (const isHeld of [0, 1]) {
    give({ kind: "holdOrRelease", jointId: "neck-turn" });
    run(40);
    expect(read("neck-turn", "isHeld")).toBe(isHeld);
  }
});

test("a paused routine gets its joints back from the hand when it goes on, and comes to them softly", () => {
  const { give, run, read } = held(
    withRoutine({ steps: [move("1", "pose-look-left", 2000), move("2", "pose-watch", 2000)] }),
  );
  give({ kind: "play", routineId: "r" });
  run(1000);
  give({ kind: "pause" });
  give({ kind: "target", jointId: "neck-turn", target: 60 });
  run(1000);
  expect(read("neck-turn", "target")).toBeCloseTo(60, 6);
  give({ kind: "giveBack", jointId: "neck-turn" });
  give({ kind: "pause" });
  let before = read("neck-turn", "target");
  for (let at = 0; at < 150; at += 1) {
    run(20);
    // 90 °/s is calm; 250 ms of handing over come on top.
    expect(Math.abs(read("neck-turn", "target") - before)).toBeLessThan(4.8);
    before = read("neck-turn", "target");
  }
  run(6000);
  expect(read("neck-turn", "target")).toBeCloseTo(0, 6);
});

test("a clip without its samples is not played, and named", () => {
  const take = {
    id: "t",
    name: "Take 7",
    madeAt: "2026-11-23T10:00:00.000Z",
    frameMs: 20,
    frames: 51,
    jointIds: ["beak"],
  };
  const clip = {
    id: "c",
    takeId: "t",
    atMs: 0,
    fromMs: 0,
    toMs: 1000,
    stretch: 1,
    fadeInMs: 0,
    fadeOutMs: 0,
    mode: "replace" as const,
    jointIds: null,
    isMuted: false,
  };
  const { give, run, read, engine } = held({ ...withRoutine({ clips: [clip] }), takes: [take] });
  const refused = give({ kind: "play", routineId: "r" });
  expect(refused.ok ? "" : refused.problem).toContain("“Take 7” are not here");
  engine.giveTake({ id: "t", channels: { beak: new Float32Array(51).fill(12) } });
  expect(give({ kind: "play", routineId: "r" }).ok).toBe(true);
  run(900);
  expect(read("beak", "target")).toBeCloseTo(12, 6);
});

test("speeds that are none, and moments that are none, are refused", () => {
  const { give } = held();
  expect(give({ kind: "playSpeed", speed: 5 }).ok).toBe(false);
  expect(give({ kind: "seek", atMs: Number.NaN }).ok).toBe(false);
});

test("while a take is recorded nobody moves its time: no pause cuts the count-in short, no seek tears it", () => {
  const { give, run, head } = held();
  give({ ...alone, jointIds: ["beak"], countInMs: 1000 });
  run(200);
  for (const command of [
    { kind: "pause" },
    { kind: "seek", atMs: 5 },
    { kind: "skip", by: 1 },
    { kind: "playSpeed", speed: 2 },
  ] satisfies Command[]) {
    const done = give(command);
    expect(done.ok ? "" : done.problem).toContain("its time runs on");
  }
  run(20);
  expect(head("recording")).toBe(recordingStages.countIn);
  give({ kind: "endRecord" });
  expect(give({ kind: "playSpeed", speed: 2 }).ok).toBe(true);
});
