import { demoProject } from "@core/demo";
import { byId, changeStep, emptyRoutine, type Project, removeRoutine, renameJoint, setTravel } from "@core/project";
import { noRoutine, phase, poseMove } from "@core/routine";
import type { Step } from "@core/steps";
import { describe, expect, test } from "vitest";
import { type Command, Engine, headOf, jointOf, owner, pressing, shapeOf, snapshotLength, sourceOf } from ".";

const demo = demoProject();

/** An engine with its clock in the test's hand. */
function engineOf(project: Project = demo) {
  const engine = new Engine();
  let current = project;
  let nowMs = 0;
  engine.configure(project, 1);
  const snapshot = () => {
    const written = new Float64Array(snapshotLength(shapeOf(current)));
    engine.write(written);
    return written;
  };
  const placeOf = (jointId: string) => current.joints.findIndex((joint) => joint.id === jointId);
  return {
    engine,
    give: (command: Command) => engine.apply(command),
    configure(changed: Project) {
      current = changed;
      engine.configure(changed, 2);
    },
    run(ms: number) {
      for (const endMs = nowMs + ms; nowMs < endMs; nowMs += 20) engine.tick(nowMs);
    },
    head: (field: Parameters<typeof headOf>[1]) => headOf(snapshot(), field),
    read: (jointId: string, field: Parameters<typeof jointOf>[2]) => jointOf(snapshot(), placeOf(jointId), field),
    source: () => sourceOf(snapshot(), current.joints.length, 0),
  };
}
const edited = (edit: { apply: (project: Project) => unknown }) => (edit.apply(demo) as { value: Project }).value;

describe("who has a joint", () => {
  test("nobody at first, then the hand, the routine, a lead; each takes it by touching", () => {
    const { give, run, read } = engineOf();
    give({ kind: "holdAll" });
    run(20);
    expect(read("neck-turn", "owner")).toBe(owner.nobody);
    give({ kind: "target", jointId: "neck-turn", target: 5 });
    expect(read("neck-turn", "owner")).toBe(owner.hand);
    give({ kind: "play", routineId: "routine-owl-wakes" });
    expect(read("neck-turn", "owner")).toBe(owner.routine);
    give({ kind: "source", sourceId: "bench-knob", value: 1000 });
    run(40);
    expect(read("neck-turn", "owner")).toBe(owner.lead);
    expect(read("neck-turn", "wish")).toBe(70);
    expect(read("neck-nod", "owner")).toBe(owner.routine);
  });

  test("a knob that is not moved leaves the joint to others", () => {
    const { give, run, read, source } = engineOf();
    give({ kind: "holdAll" });
    give({ kind: "source", sourceId: "bench-knob", value: 0 });
    run(1000);
    give({ kind: "target", jointId: "neck-turn", target: 12 });
    run(1000);
    expect(read("neck-turn", "target")).toBe(12);
    expect(source()).toBe(0);
  });

  test("when a routine ends nobody has its joints, and they finish the way to its last pose", () => {
    const { give, run, read, head } = engineOf();
    give({ kind: "holdAll" });
    give({ kind: "goToPose", poseId: "pose-look-left", moveMs: 50 });
    run(60);
    expect(head("routineIndex")).toBe(poseMove);
    run(100);
    expect(head("routineIndex")).toBe(noRoutine);
    expect(read("neck-turn", "owner")).toBe(owner.nobody);
    // 55° at 240 °/s takes longer than the 50 ms that were asked for.
    expect(read("neck-turn", "target")).toBeGreaterThan(-55);
    run(1000);
    expect(read("neck-turn", "target")).toBe(-55);
  });
});

describe("what is refused, in words", () => {
  test.each<[Command, string]>([
    [{ kind: "target", jointId: "nobody", target: 0 }, "no longer on the bench"],
    [{ kind: "target", jointId: "beak", target: 5 }, "Beak is released and stays limp. Hold it first (H)."],
    [{ kind: "play", routineId: "gone" }, "no longer on the bench"],
    [{ kind: "play", routineId: "routine-tray" }, "they are released. Hold them first"],
    [{ kind: "goToPose", poseId: "gone", moveMs: 0 }, "no longer on the bench"],
    [{ kind: "goToPose", poseId: "pose-blink", moveMs: Number.NaN }, "0 s or longer"],
    [{ kind: "source", sourceId: "gone", value: 1 }, "no longer on the bench"],
    [{ kind: "source", sourceId: "bench-knob", value: Number.NaN }, "only give numbers"],
  ])("%o", (command, says) => {
    const done = engineOf().give(command);
    expect(done.ok ? "" : done.problem).toContain(says);
  });

  test("an empty routine, and a set point that is no number", () => {
    const { give } = engineOf({
      ...demo,
      routines: [emptyRoutine("empty", "Empty")],
    });
    expect(give({ kind: "play", routineId: "empty" })).toMatchObject({
      problem: expect.stringContaining("moves nothing yet"),
    });
    give({ kind: "hold", jointId: "beak" });
    expect(give({ kind: "setPoint", jointId: "beak", setPoint: Number.NaN })).toMatchObject({ ok: false });
  });
});

describe("while a routine plays", () => {
  test("a renamed joint or a longer move does not disturb it", () => {
    const { give, run, read, head, configure } = engineOf();
    give({ kind: "holdAll" });
    give({ kind: "play", routineId: "routine-owl-wakes" });
    run(2300);
    const before = read("neck-turn", "target");
    configure(edited(renameJoint("beak", "Lower beak")));
    run(20);
    expect(head("routineIndex")).toBe(0);
    expect(Math.abs(read("neck-turn", "target") - before)).toBeLessThan(4.8);
    configure(
      edited(
        changeStep(
          "routine-owl-wakes",
          "wake-3",
          "time",
          (step) => ({ ...step, pace: { kind: "time", moveMs: 5000 } }) as Step,
        ),
      ),
    );
    run(20);
    // It goes back to where the longer move is at this moment, and on from there.
    expect(head("phase")).toBe(phase.leadIn);
    expect(head("scoreMs")).toBeGreaterThan(1820);
  });

  test("a deleted routine ends, and its joints stay where they are", () => {
    const { give, run, read, head, configure } = engineOf();
    give({ kind: "holdAll" });
    give({ kind: "play", routineId: "routine-owl-wakes" });
    run(2300);
    configure(edited(removeRoutine("routine-owl-wakes")));
    const stoodAt = read("neck-turn", "target");
    run(1000);
    expect(head("routineIndex")).toBe(noRoutine);
    expect(read("neck-turn", "target")).toBe(stoodAt);
  });

  test("a joint that was added or removed ends it: its places would mean other joints", () => {
    const { give, run, head, configure, read } = engineOf();
    give({ kind: "holdAll" });
    give({ kind: "play", routineId: "routine-tray" });
    run(500);
    configure({
      ...demo,
      joints: demo.joints.filter((joint) => joint.id !== "beak"),
      poses: [],
      routines: [],
      leads: [],
    });
    run(40);
    expect(head("routineIndex")).toBe(noRoutine);
    expect(read("turntable", "isHeld")).toBe(1);
  });

  test("released joints are left out of it", () => {
    const { give, run, read } = engineOf();
    give({ kind: "hold", jointId: "neck-turn" });
    give({ kind: "play", routineId: "routine-owl-wakes" });
    run(9000);
    expect(read("beak", "isHeld")).toBe(0);
    expect(read("beak", "count")).toBeNaN();
  });
});

test("holding again goes on from where the joint was last driven to, not home", () => {
  const { give, run, read } = engineOf();
  give({ kind: "hold", jointId: "neck-turn" });
  give({ kind: "target", jointId: "neck-turn", target: 30 });
  run(1000);
  give({ kind: "release", jointId: "neck-turn" });
  run(200);
  give({ kind: "hold", jointId: "neck-turn" });
  run(20);
  expect(read("neck-turn", "target")).toBe(30);
});

test("a hand that asks for more than the limits is told why, and comes back at once", () => {
  const { give, run, read } = engineOf(edited(setTravel("neck-turn", -10, 10)));
  give({ kind: "hold", jointId: "neck-turn" });
  give({ kind: "target", jointId: "neck-turn", target: 500 });
  run(400);
  expect(read("neck-turn", "target")).toBe(10);
  expect(read("neck-turn", "heldBack")).toBe(2);
  give({ kind: "home", jointId: "neck-turn" });
  run(400);
  expect(read("neck-turn", "target")).toBe(0);
  expect(read("neck-turn", "heldBack")).toBe(0);
});

test("jogs add up however fast they come, in degrees or in set points, and never pile up behind a limit", () => {
  const { give, run, read } = engineOf();
  give({ kind: "hold", jointId: "neck-turn" });
  for (let notch = 0; notch < 5; notch += 1) give({ kind: "jog", jointId: "neck-turn", by: 1, in: "target" });
  expect(read("neck-turn", "wish")).toBe(5);
  // 1000 µs for 180°: 50 µs are 9°.
  give({ kind: "jog", jointId: "neck-turn", by: 50, in: "setPoint" });
  expect(read("neck-turn", "wish")).toBeCloseTo(14, 9);
  for (let notch = 0; notch < 50; notch += 1) give({ kind: "jog", jointId: "neck-turn", by: 10, in: "target" });
  give({ kind: "jog", jointId: "neck-turn", by: -1, in: "target" });
  run(1000);
  expect(read("neck-turn", "target")).toBe(79);
  expect(give({ kind: "jog", jointId: "neck-turn", by: Number.NaN, in: "target" }).ok).toBe(false);
});

describe("while a joint is calibrated", () => {
  test("it may leave its travel limits, but never its hard window", () => {
    const { give, run, read } = engineOf();
    give({ kind: "hold", jointId: "neck-turn" });
    give({ kind: "setPoint", jointId: "neck-turn", setPoint: 2100 });
    run(2000);
    // 80° of travel is 1944.4 µs by the data sheet; the count nearest to it makes 1945.3.
    expect(read("neck-turn", "setPoint")).toBeLessThan(1946);
    give({ kind: "calibrate", jointId: "neck-turn", isOn: true });
    give({ kind: "setPoint", jointId: "neck-turn", setPoint: 2100 });
    run(2000);
    expect(Math.abs(read("neck-turn", "setPoint") - 2100)).toBeLessThan(2.5);
    give({ kind: "setPoint", jointId: "neck-turn", setPoint: 9000 });
    run(3000);
    expect(read("neck-turn", "setPoint")).toBeLessThanOrEqual(2500);
    expect(read("neck-turn", "setPoint")).toBeGreaterThan(2494);
  });

  test("anything but a set point ends it, and the joint comes back inside at its speed limit", () => {
    const { give, run, read } = engineOf();
    give({ kind: "hold", jointId: "neck-turn" });
    give({ kind: "calibrate", jointId: "neck-turn", isOn: true });
    give({ kind: "setPoint", jointId: "neck-turn", setPoint: 2300 });
    run(2000);
    const before = read("neck-turn", "target");
    give({ kind: "target", jointId: "neck-turn", target: 100 });
    run(20);
    expect(before - read("neck-turn", "target")).toBeLessThanOrEqual(4.8 + 1e-9);
    run(2000);
    expect(read("neck-turn", "target")).toBe(80);
  });

  test("a release ends it", () => {
    const { give, run, read } = engineOf();
    give({ kind: "hold", jointId: "neck-turn" });
    give({ kind: "calibrate", jointId: "neck-turn", isOn: true });
    give({ kind: "releaseAll" });
    give({ kind: "hold", jointId: "neck-turn" });
    give({ kind: "setPoint", jointId: "neck-turn", setPoint: 2300 });
    run(2000);
    expect(read("neck-turn", "target")).toBe(80);
  });
});

test("boards of different frame rates get their frames at their own times", () => {
  const slow = demo.boards.map((board) => (board.id === "pebble" ? { ...board, frameHz: [25, 25, 25, 25] } : board));
  const { engine } = engineOf({ ...demo, boards: slow });
  const frames = { fern: 0, pebble: 0, ivy: 0 };
  for (let nowMs = 0; nowMs < 2000; nowMs += 1) {
    engine.tick(nowMs);
    for (const output of engine.outputs) if (output.isDue) frames[output.boardId as keyof typeof frames] += 1;
  }
  expect(frames).toEqual({ fern: 100, pebble: 50, ivy: 100 });
});

test("a silent board's joints take no commands; releasing them is always possible", () => {
  const { engine, give, run, read } = engineOf();
  give({ kind: "holdAll" });
  run(100);
  engine.linkLost("pebble", false);
  const refused = give({ kind: "home", jointId: "wrist-tilt" });
  expect(refused.ok ? "" : refused.problem).toBe("Pebble does not answer. See to its link first.");
  expect(give({ kind: "target", jointId: "neck-turn", target: 5 }).ok).toBe(true);
  expect(give({ kind: "release", jointId: "wrist-tilt" }).ok).toBe(true);
  expect(read("wrist-tilt", "isHeld")).toBe(0);
  expect(give({ kind: "hold", jointId: "wrist-tilt" }).ok).toBe(false);
  engine.linkBack("pebble", true);
  expect(read("grip", "isHeld")).toBe(0);
  expect(give({ kind: "hold", jointId: "wrist-tilt" }).ok).toBe(true);
});

test("the same commands at the same times give the same snapshots, bit for bit", () => {
  const performance = () => {
    const { engine, give, run } = engineOf();
    give({ kind: "holdAll" });
    give({ kind: "play", routineId: "routine-tray" });
    run(3000);
    give({ kind: "source", sourceId: "bench-knob", value: 300 });
    run(1000);
    const written = new Float64Array(snapshotLength(shapeOf(demo)));
    engine.write(written);
    return [...written];
  };
  expect(performance()).toEqual(performance());
  expect(byId(demo.joints, "beak").label).toBe("Beak");
});

describe("a step against a possible stop", () => {
  const press: Command = {
    kind: "press",
    jointId: "neck-turn",
    from: 1900,
    to: 1950,
    backTo: 1850,
    settleMs: 200,
    forMs: 700,
  };
  function pressed() {
    const bench = engineOf();
    bench.give({ kind: "hold", jointId: "neck-turn" });
    bench.give({ kind: "calibrate", jointId: "neck-turn", isOn: true });
    bench.give({ kind: "setPoint", jointId: "neck-turn", setPoint: 1880 });
    bench.run(3000);
    bench.give(press);
    return bench;
  }
  const sent = (bench: ReturnType<typeof pressed>) => Math.round(bench.read("neck-turn", "setPoint") / 10) * 10;

  test("stands, presses, and stands back by itself when its time is over, with nobody watching", () => {
    const bench = pressed();
    bench.run(180);
    expect([sent(bench), bench.read("neck-turn", "pressing")]).toEqual([1900, pressing.standing]);
    bench.run(400);
    expect([sent(bench), bench.read("neck-turn", "pressing")]).toEqual([1950, pressing.pressing]);
    bench.run(400);
    expect([sent(bench), bench.read("neck-turn", "pressing")]).toEqual([1850, pressing.back]);
  });

  test("behind a low speed limit its time runs only once it stands where the step begins", () => {
    const slow = {
      ...demo,
      joints: demo.joints.map((joint) =>
        joint.id === "neck-turn" && joint.axis.kind === "angle"
          ? { ...joint, axis: { ...joint.axis, speedLimitDegPerS: 10 } }
          : joint,
      ),
    };
    const bench = engineOf(slow);
    bench.give({ kind: "hold", jointId: "neck-turn" });
    bench.give({ kind: "calibrate", jointId: "neck-turn", isOn: true });
    bench.give({ kind: "setPoint", jointId: "neck-turn", setPoint: 1820 });
    bench.run(12_000);
    bench.give(press);
    // 80 µs are 14.4° by its sheet: 1.44 s at 10 °/s.
    bench.run(1300);
    expect(bench.read("neck-turn", "pressing")).toBe(pressing.standing);
    expect(bench.read("neck-turn", "setPoint")).toBeLessThan(1899);
    bench.run(400);
    expect(bench.read("neck-turn", "pressing")).toBe(pressing.pressing);
    expect(bench.read("neck-turn", "setPoint")).toBeGreaterThan(1895);
    bench.run(500);
    expect(bench.read("neck-turn", "pressing")).toBe(pressing.back);
  });

  test("anything else that is asked ends it; a release too", () => {
    const bench = pressed();
    bench.run(400);
    bench.give({ kind: "setPoint", jointId: "neck-turn", setPoint: 1800 });
    bench.run(1500);
    expect([sent(bench), bench.read("neck-turn", "pressing")]).toEqual([1800, pressing.none]);
    bench.give(press);
    bench.run(400);
    bench.give({ kind: "releaseAll" });
    bench.run(1000);
    expect(bench.read("neck-turn", "setPoint")).toBeNaN();
    expect(bench.read("neck-turn", "pressing")).toBe(pressing.none);
  });

  test("when the link is lost in the middle of it, the servo is away from the stop when it answers again", () => {
    const bench = pressed();
    bench.run(400);
    bench.engine.linkLost("fern", false);
    bench.run(100);
    bench.engine.linkBack("fern", false);
    bench.run(500);
    expect(sent(bench)).toBe(1850);
  });

  test("no press is longer than two seconds, and what is not a number presses nothing", () => {
    const bench = pressed();
    bench.give({ ...press, forMs: 60_000 });
    bench.run(2300);
    expect(sent(bench)).toBe(1850);
    expect(bench.give({ ...press, to: Number.NaN })).toMatchObject({ ok: false });
  });
});

test("a spinning joint that is set so gets no signal at all at a spin of 0", () => {
  const resting = {
    ...demo,
    joints: demo.joints.map((joint) =>
      joint.axis.kind === "spin" ? { ...joint, axis: { ...joint.axis, atRest: "release" as const } } : joint,
    ),
  };
  const { give, run, read } = engineOf(resting);
  give({ kind: "hold", jointId: "vent-crank" });
  run(200);
  expect(read("vent-crank", "isHeld")).toBe(1);
  expect(read("vent-crank", "count")).toBeNaN();
  give({ kind: "target", jointId: "vent-crank", target: 0.5 });
  run(1000);
  expect(read("vent-crank", "setPoint")).toBeGreaterThan(1700);
  give({ kind: "home", jointId: "vent-crank" });
  run(1000);
  expect(read("vent-crank", "count")).toBeNaN();
});
