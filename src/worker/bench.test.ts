import { demoProject } from "@core/demo";
import type { Command } from "@core/engine";
import { byId } from "@core/project";
import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { benchOf } from "../../tests/benchInHand";
import type { BusOutcome } from "./links/busMessages";

const demo = demoProject();
const owl = demo.joints.filter((joint) => joint.rigId === "tawny");

test("nothing leaves for a joint until it is held", () => {
  const { run, lastFrame, command } = benchOf();
  run(100);
  expect(lastFrame("fern").size).toBe(0);
  expect(command({ kind: "target", jointId: "neck-turn", target: 20 })).toMatchObject({ ok: false });
  run(100);
  expect(lastFrame("fern").size).toBe(0);
  command({ kind: "hold", jointId: "neck-turn" });
  run(100);
  expect([...lastFrame("fern").keys()]).toEqual([0]);
});

test("a target becomes a frame, the frame a pulse, and the simulated neck turns — half-way, by its data sheet", () => {
  const { run, command, read } = benchOf();
  command({ kind: "holdAll" });
  command({ kind: "target", jointId: "neck-turn", target: 72 });
  run(1000);
  // 162° of 1000–2000 µs is 1900 µs; its truth is 10.9 µs per degree about 1512, so it turns about 36°.
  expect(read("neck-turn", "setPoint")).toBeCloseTo(1901.2, 2);
  expect(read("neck-turn", "actual")).toBeGreaterThan(34);
  expect(read("neck-turn", "actual")).toBeLessThan(38);
});

test("release all leaves at once, between frames, and every frame after it is empty", () => {
  const { run, command, sent, lastFrame } = benchOf();
  command({ kind: "holdAll" });
  run(200);
  const before = sent.length;
  command({ kind: "releaseAll" });
  // Two pulse boards, and one bus with two families on it.
  expect(sent.slice(before).map((line) => line.body[0])).toEqual(["R", "R", "R", "R"]);
  run(80);
  for (const board of demo.boards) expect(lastFrame(board.id).size).toBe(0);
});

test("a bench that was held up for a second sends one frame, not fifty, and takes no leap", () => {
  const { run, command, sent, read } = benchOf();
  command({ kind: "holdAll" });
  run(200);
  command({ kind: "play", routineId: "routine-owl-wakes" });
  run(1500);
  const before = sent.length;
  const targetBefore = read("neck-turn", "target");
  run(1000, 1000);
  expect(sent.slice(before).filter((line) => line.boardId === "fern")).toHaveLength(1);
  expect(Math.abs(read("neck-turn", "target") - targetBefore)).toBeLessThanOrEqual(240 * 0.05 + 1e-9);
});

test("frames leave every 20 ms on a clock that wanders, without drift", () => {
  const { run, sent } = benchOf();
  run(10_000, 1);
  const times = sent.filter((line) => line.boardId === "pebble" && line.body.startsWith("S")).map((line) => line.atMs);
  expect(times).toHaveLength(500);
  expect(Math.max(...times.slice(1).map((time, at) => time - (times[at] as number)))).toBe(20);
});

describe("a routine", () => {
  test("plays to its end and leaves the owl within 0.5° of its last pose where it is calibrated", () => {
    const { run, command, read } = benchOf();
    command({ kind: "holdAll" });
    command({ kind: "play", routineId: "routine-owl-wakes" });
    run(8500);
    for (const { id } of owl) expect(read(id, "target")).toBe(demo.poses[0]?.targets[id]);
    expect(read("left-lid", "actual")).toBeCloseTo(50, 0);
  });

  test("stopped half-way its joints stay where they are, held", () => {
    const { run, command, read } = benchOf();
    command({ kind: "holdAll" });
    command({ kind: "play", routineId: "routine-owl-wakes" });
    run(2300);
    command({ kind: "stop" });
    const stoppedAt = read("neck-turn", "target");
    expect(Math.abs(stoppedAt)).toBeGreaterThan(1);
    run(2000);
    expect(read("neck-turn", "target")).toBe(stoppedAt);
    expect(read("neck-turn", "isHeld")).toBe(1);
  });

  test("lets a hand take a joint, and leaves it there", () => {
    const { run, command, read } = benchOf();
    command({ kind: "holdAll" });
    command({ kind: "play", routineId: "routine-owl-wakes" });
    run(300);
    command({ kind: "target", jointId: "neck-turn", target: 33 });
    run(4000);
    expect(read("neck-turn", "target")).toBe(33);
    expect(read("ear-tuft", "target")).not.toBe(0);
  });
});

test("a knob at a quarter turns the neck to −35°", () => {
  const { run, command, read } = benchOf();
  command({ kind: "holdAll" });
  command({ kind: "source", sourceId: "bench-knob", value: 250 });
  run(1000);
  expect(read("neck-turn", "target")).toBeCloseTo(-35, 9);
});

describe("a pulled plug", () => {
  test("shows within 300 ms; a board that releases comes back released, with no jump", () => {
    const { bench, run, command, read, lastFrame } = benchOf();
    command({ kind: "holdAll" });
    command({ kind: "play", routineId: "routine-owl-wakes" });
    run(2000);
    bench.simulation.ask("fern", { kind: "plug", isPlugged: false }, 0);
    run(300);
    expect(bench.linkReports[0]?.state).toBe("lost");
    const stoodAt = read("neck-turn", "actual");
    run(3000);
    bench.simulation.ask("fern", { kind: "plug", isPlugged: true }, 0);
    run(1000);
    expect(bench.linkReports[0]?.state).toBe("live");
    expect(read("neck-turn", "isHeld")).toBe(0);
    expect(lastFrame("fern").size).toBe(0);
    // A fast move goes on for the quarter second until the loss is noticed, and no further.
    expect(Math.abs(read("neck-turn", "actual") - stoodAt)).toBeLessThan(0.5);
  });

  test("a board that holds goes on with the very same set points", () => {
    const { bench, run, command, lastFrame, read } = benchOf();
    command({ kind: "holdAll" });
    run(500);
    const before = lastFrame("pebble");
    bench.simulation.ask("pebble", { kind: "plug", isPlugged: false }, 0);
    run(1000);
    expect(command({ kind: "target", jointId: "wrist-tilt", target: -40 })).toMatchObject({ ok: false });
    bench.simulation.ask("pebble", { kind: "plug", isPlugged: true }, 0);
    run(1000);
    expect(read("wrist-tilt", "isHeld")).toBe(1);
    expect(lastFrame("pebble")).toEqual(before);
  });
});

test("no sequence of commands lets a pulse out of its window or moves a released joint", () => {
  const jointIds = demo.joints.map((joint) => joint.id);
  const jointId = fc.constantFrom(...jointIds);
  const command: fc.Arbitrary<Command> = fc.oneof(
    fc.record({ kind: fc.constantFrom("hold", "release", "home"), jointId }),
    fc.record({ kind: fc.constant("target"), jointId, target: fc.double() }),
    fc.record({ kind: fc.constant("setPoint"), jointId, setPoint: fc.double({ min: -5000, max: 5000 }) }),
    fc.record({ kind: fc.constant("calibrate"), jointId, isOn: fc.boolean() }),
    fc.record({
      kind: fc.constant("jog"),
      jointId,
      by: fc.double(),
      in: fc.constantFrom("target", "setPoint"),
    }),
    fc.record({ kind: fc.constant("source"), sourceId: fc.constant("bench-knob"), value: fc.double() }),
    fc.record({ kind: fc.constant("play"), routineId: fc.constantFrom(...demo.routines.map((one) => one.id)) }),
    fc.record({
      kind: fc.constant("goToPose"),
      poseId: fc.constantFrom(...demo.poses.map((one) => one.id)),
      moveMs: fc.double({ min: -1, max: 2000 }),
    }),
    fc.constantFrom<Command>({ kind: "releaseAll" }, { kind: "holdAll" }, { kind: "stop" }),
  ) as fc.Arbitrary<Command>;
  const waits = fc.integer({ min: 0, max: 700 });

  fc.assert(
    fc.property(fc.array(fc.tuple(command, waits), { maxLength: 25 }), (script) => {
      const { run, sent, lastFrame, command: give } = benchOf();
      const mayBeHeld = new Set<string>();
      let checked = 0;
      for (const [one, waitMs] of script) {
        give(one);
        if (one.kind === "hold") mayBeHeld.add(one.jointId);
        if (one.kind === "release") mayBeHeld.delete(one.jointId);
        if (one.kind === "holdAll") for (const id of jointIds) mayBeHeld.add(id);
        if (one.kind === "releaseAll") mayBeHeld.clear();
        run(waitMs + 20);
        for (; checked < sent.length; checked += 1) expect(sent[checked]?.body).not.toBe("bad");
        for (const joint of demo.joints) {
          const setPoint = lastFrame(joint.boardId).get(joint.channel);
          const { window, kind } = byId(demo.cards, joint.cardId);
          // A device on a bus is switched on in several steps, and off when it has answered.
          if (kind === "smart") expect(setPoint === undefined || waitMs < 60 || mayBeHeld.has(joint.id)).toBe(true);
          else expect(setPoint !== undefined).toBe(mayBeHeld.has(joint.id));
          if (setPoint === undefined) continue;
          expect(setPoint).toBeGreaterThanOrEqual(window.low);
          expect(setPoint).toBeLessThanOrEqual(window.high);
        }
      }
    }),
    { numRuns: 60 },
  );
});

describe("the automatic run", () => {
  const ask = { centre: 1500, window: { low: 500, high: 2500 }, step: 10, glidePerS: 900 };

  test("finds the stops of a servo with a feedback wire by what its board reports", () => {
    const { bench, run } = benchOf();
    run(200);
    expect(bench.survey("grip", ask)).toMatchObject({ ok: true });
    run(60_000);
    const report = bench.surveyNow?.report;
    expect(report?.phase).toBe("done");
    // Its truth: 7.4 µs per degree about 90° at 1520, stops at 10° and 170°.
    expect(Math.abs((report?.low?.setPoint ?? 0) - 928)).toBeLessThan(7);
    expect(Math.abs((report?.high?.setPoint ?? 0) - 2112)).toBeLessThan(7);
  });

  test("refuses a servo that cannot be read, and a board that does not answer", () => {
    const { bench, run } = benchOf();
    run(200);
    expect(bench.survey("beak", ask)).toMatchObject({ ok: false });
    bench.simulation.ask("pebble", { kind: "plug", isPlugged: false }, 0);
    run(1000);
    expect(bench.survey("grip", ask)).toMatchObject({ ok: false });
  });

  test.each<[string, (bench: ReturnType<typeof benchOf>) => void, string]>([
    ["Esc", ({ command }) => command({ kind: "releaseAll" }), "stopped"],
    ["a hand", ({ command }) => command({ kind: "target", jointId: "grip", target: 20 }), "stopped"],
    ["its own button", ({ bench }) => bench.endSurvey(), "stopped"],
    [
      "a lost link",
      ({ bench }) => bench.simulation.ask("pebble", { kind: "plug", isPlugged: false }, 0),
      "does not answer",
    ],
  ])("is ended at once by %s, and the servo leaves the stop", (_, end, why) => {
    const at = benchOf();
    at.run(200);
    at.bench.survey("grip", ask);
    at.run(5000);
    expect(at.bench.surveyNow?.report.phase).toBe("upper");
    end(at);
    at.run(1500);
    expect(at.bench.surveyNow?.report).toMatchObject({ phase: "ended", problem: expect.stringContaining(why) });
    at.bench.simulation.ask("pebble", { kind: "plug", isPlugged: true }, 0);
    at.run(3000);
    expect(at.read("grip", "isStalled")).toBe(0);
  });

  test("what the board reads reaches the snapshot, and is gone with the link", () => {
    const { bench, run, read } = benchOf();
    run(200);
    expect(read("grip", "reading")).toBeGreaterThan(300);
    expect(read("turntable", "currentMa")).toBe(0);
    expect(read("beak", "reading")).toBeNaN();
    bench.simulation.ask("pebble", { kind: "plug", isPlugged: false }, 0);
    run(1000);
    expect(read("grip", "reading")).toBeNaN();
  });
});

test("a limp arm that a hand turns is recorded as its board reads it, and played again", () => {
  const at = benchOf();
  at.run(400);
  const record = {
    kind: "record",
    jointIds: ["elbow"],
    routineId: null,
    fromMs: 0,
    countInMs: 0,
    punch: null,
    byHand: true,
  } as const;
  at.command({ kind: "holdAll" });
  at.run(400);
  expect(at.command(record)).toMatchObject({ ok: false, problem: expect.stringContaining("is held") });
  expect(at.command({ ...record, jointIds: ["beak"] })).toMatchObject({
    ok: false,
    problem: expect.stringContaining("cannot be read"),
  });
  at.command({ kind: "release", jointId: "elbow" });
  at.run(300);
  expect(at.command(record)).toMatchObject({ ok: true });
  at.run(200);
  for (let turns = 0; turns < 20; turns += 1) {
    at.bench.simulation.ask("ivy", { kind: "turnByHand", key: "card-elbow", byDeg: 1 }, 0);
    at.run(60);
  }
  at.command({ kind: "endRecord" });
  const recorded = at.bench.takeRecorded();
  const samples = recorded?.channels[0] ?? new Float32Array(0);
  // Twenty turns of a degree, as its encoder of 0.3° sees them.
  expect((samples.at(-1) ?? 0) - (samples[0] ?? 0)).toBeGreaterThan(18);
  expect((samples.at(-1) ?? 0) - (samples[0] ?? 0)).toBeLessThan(22);
});

test("a change of speed that is ended in the middle says who is where, and another one brings all together", () => {
  const at = benchOf();
  at.run(1000);
  const told: BusOutcome[] = [];
  at.bench.onBus = (_, one) => one.kind === "outcome" && told.push(one.outcome);
  const devices = demoProject()
    .joints.filter(({ boardId }) => boardId === "ivy")
    .map(({ channel, cardId }) => {
      const card = byId(demoProject().cards, cardId);
      return { id: channel, layoutId: card.kind === "smart" ? card.layoutId : "" };
    });
  const change = { kind: "changeSpeed", devices, toBitsPerS: 57_600 } as const;
  at.bench.askBus("ivy", { kind: "run", runId: 1, run: change });
  let doneSoFar = 0;
  at.bench.onBus = (_, one) => {
    if (one.kind === "progress") doneSoFar = (one.progress as { changed?: readonly number[] }).changed?.length ?? 0;
    if (one.kind === "outcome") told.push(one.outcome);
  };
  for (let ms = 0; ms < 20_000 && doneSoFar < 1; ms += 20) at.run(20);
  at.bench.askBus("ivy", { kind: "endRun" });
  at.run(40);
  expect(told[0]).toMatchObject({
    kind: "refused",
    sentence: expect.stringMatching(/ended in the middle.* at 57,600 bit/),
  });
  at.bench.askBus("ivy", { kind: "run", runId: 2, run: change });
  at.run(40_000);
  expect(told[1]).toMatchObject({ kind: "done", outcome: { isDone: true } });
});
