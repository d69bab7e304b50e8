import { demoProject } from "@core/demo";
import type { Lead, Project, Source } from "@core/project";
import { expect, test } from "vitest";
import { type Command, Engine, jointOf, owner, shapeOf, snapshotLength } from ".";

const demo = demoProject();
const neckAt = demo.joints.findIndex(({ id }) => id === "neck-turn");
const knob = (id: string): Source => ({
  id,
  label: id,
  range: { low: 0, high: 1000 },
  origin: { kind: "knob" },
  isMuted: false,
  ifLost: { kind: "hold" },
});
const toNeck = (id: string, sourceId: string, high = 60): Lead => ({
  id,
  sourceId,
  target: { kind: "joint", jointId: "neck-turn" },
  shapers: [{ kind: "rangeMap", from: { low: 0, high: 1000 }, to: { low: -60, high } }],
  isMuted: false,
});
/** A neck without a speed limit, so that any leap is seen at once, and two knobs that lead to it. */
const bench: Project = {
  ...demo,
  sources: [knob("one"), knob("other")],
  leads: [toNeck("first", "one"), toNeck("second", "other")],
  joints: demo.joints.map((joint) =>
    joint.id === "neck-turn" && joint.axis.kind === "angle"
      ? { ...joint, axis: { ...joint.axis, speedLimitDegPerS: null }, control: { ...joint.control, blendMs: 400 } }
      : joint,
  ),
};

function engineOf(project = bench) {
  const engine = new Engine();
  let nowMs = 0;
  let now = project;
  engine.configure(project, 1);
  engine.apply({ kind: "hold", jointId: "neck-turn" });
  const read = (field: Parameters<typeof jointOf>[2]) => {
    const snapshot = new Float64Array(snapshotLength(shapeOf(now)));
    engine.write(snapshot);
    return jointOf(snapshot, neckAt, field);
  };
  return {
    engine,
    read,
    give: (command: Command) => engine.apply(command),
    turn: (sourceId: string, value: number) => engine.apply({ kind: "source", sourceId, value }),
    change(changed: Project) {
      now = changed;
      engine.configure(changed, 2);
    },
    /** Lets time pass, and gives the largest step of the neck in one tick. */
    run(ms: number) {
      let largest = 0;
      for (const endMs = nowMs + ms; nowMs < endMs; ) {
        const before = read("target");
        nowMs += 20;
        engine.tick(nowMs);
        largest = Math.max(largest, Math.abs(read("target") - before));
      }
      return largest;
    },
  };
}

test("a lead that is removed leaves its joint where it stands; one that stands before it in the list changes nothing", () => {
  const at = engineOf();
  at.turn("other", 1000);
  at.run(1000);
  expect(at.read("owner")).toBe(owner.lead + 1);
  at.turn("one", 0);
  at.change({ ...bench, leads: bench.leads.slice(1) });
  expect(at.run(1000)).toBeLessThan(1e-9);
  expect(at.read("owner")).toBe(owner.lead);
  at.change({ ...bench, leads: [] });
  expect(at.run(1000)).toBeLessThan(1e-9);
  expect(at.read("owner")).toBe(owner.nobody);
});

test("editing the map of a lead that has its joint moves nothing until its knob is moved, and then softly", () => {
  const at = engineOf();
  at.turn("one", 1000);
  at.run(1000);
  expect(at.read("target")).toBeCloseTo(60, 6);
  at.change({ ...bench, leads: [toNeck("first", "one", -20), toNeck("second", "other")] });
  expect(at.run(1000)).toBe(0);
  at.turn("one", 999);
  // 80° in 400 ms, by a curve that is steepest at 1.5 times the mean: 6° a tick at most.
  expect(at.run(1000)).toBeLessThanOrEqual(6.1);
  expect(at.read("target")).toBeCloseTo(-20.04, 1);
});

test("an edit in the middle of a change of hands goes on softly", () => {
  const at = engineOf();
  at.turn("one", 1000);
  at.run(1000);
  at.give({ kind: "target", jointId: "neck-turn", target: -60 });
  at.run(100);
  at.change({ ...bench, name: "Another name" });
  expect(at.run(1000)).toBeLessThanOrEqual(9.1);
});

test("stop is stop: nothing goes on, nor back", () => {
  const at = engineOf();
  at.turn("one", 0);
  at.run(1000);
  at.give({ kind: "target", jointId: "neck-turn", target: 60 });
  at.run(200);
  at.give({ kind: "stop" });
  expect(at.run(1000)).toBe(0);
});

test("a joint that is given back while it is measured has its travel limits again", () => {
  const at = engineOf();
  at.give({ kind: "calibrate", jointId: "neck-turn", isOn: true });
  at.give({ kind: "setPoint", jointId: "neck-turn", setPoint: 2300 });
  at.run(1000);
  expect(at.read("target")).toBeGreaterThan(80);
  at.give({ kind: "giveBack", jointId: "neck-turn" });
  expect(at.engine.isCalibrating("neck-turn")).toBe(false);
  // It comes in, at 60° a second, since it has no limit of its own.
  expect(at.run(3000)).toBeLessThanOrEqual(1.2 + 1e-9);
  expect(at.read("target")).toBeLessThanOrEqual(80);
});

test("while its board says nothing a joint waits; then it goes on softly from the number that the board holds", () => {
  const at = engineOf();
  at.turn("one", 0);
  at.run(1000);
  const heard = new Float64Array(12).fill(Number.NaN);
  heard[0] = at.read("count");
  at.engine.linkWaits("fern", true, heard);
  at.turn("one", 1000);
  expect(at.run(500)).toBe(0);
  at.engine.linkWaits("fern", false, heard);
  expect(at.run(1000)).toBeLessThanOrEqual(9.1);
  expect(at.read("target")).toBeCloseTo(60, 6);
});

test("held while its board says nothing, a joint is not let go by a word from before that; by one that passes it over it is", () => {
  const at = engineOf();
  at.run(100);
  const none = new Float64Array(12).fill(Number.NaN);
  const hold = () => at.give({ kind: "hold", jointId: "neck-turn" });
  at.give({ kind: "releaseAll" });
  at.run(100);
  at.engine.linkWaits("fern", true, none);
  hold();
  // Before its first frame has left, and after.
  at.engine.linkWaits("fern", false, none, () => false);
  expect(at.read("isHeld")).toBe(1);
  at.run(60);
  at.engine.linkWaits("fern", true, none);
  at.engine.linkWaits("fern", false, none, (channel) => channel === 0);
  expect(at.read("isHeld")).toBe(1);
  at.engine.linkWaits("fern", true, none);
  at.engine.linkWaits("fern", false, none, () => false);
  expect(at.read("isHeld")).toBe(0);
});

test("what was turned while its board was lost moves nothing when it is back: who had it takes it anew", () => {
  const at = engineOf();
  at.turn("one", 0);
  at.run(1000);
  const heard = new Float64Array(12).fill(Number.NaN);
  heard[0] = at.read("count");
  at.engine.linkLost("fern", false);
  at.turn("one", 1000);
  at.run(1000);
  at.engine.linkBack("fern", false, heard);
  expect(at.run(1000)).toBeLessThan(0.5);
  expect(at.read("owner")).toBe(owner.nobody);
  at.turn("one", 990);
  at.run(1000);
  expect(at.read("target")).toBeCloseTo(58.8, 6);
});

test("a board that holds none of a joint's signals when it is back has let go of it", () => {
  const at = engineOf();
  at.run(100);
  at.engine.linkLost("fern", false);
  at.engine.linkBack("fern", false, new Float64Array(12).fill(Number.NaN));
  expect(at.read("isHeld")).toBe(0);
});

test("a tap shorter than a tick is a press and a release all the same", () => {
  const button: Source = { ...knob("bell"), range: { low: 0, high: 1 }, origin: { kind: "button" } };
  const lead: Lead = {
    id: "l",
    sourceId: "bell",
    target: { kind: "action", action: { kind: "capture" } },
    shapers: [],
    isMuted: false,
  };
  const at = engineOf({ ...bench, sources: [button], leads: [lead] });
  at.turn("bell", 0);
  at.run(40);
  at.turn("bell", 1);
  at.turn("bell", 0);
  at.turn("bell", 1);
  at.turn("bell", 0);
  at.run(200);
  expect(at.engine.takeAsked()).toHaveLength(2);
});

test("an endless number is refused at every door", () => {
  const at = engineOf();
  const odd: Command[] = [
    { kind: "seek", atMs: Number.POSITIVE_INFINITY },
    { kind: "playSpeed", speed: Number.NaN },
    { kind: "goToPose", poseId: "pose-blink", moveMs: Number.POSITIVE_INFINITY },
    { kind: "play", routineId: "routine-owl-wakes", fromMs: Number.NEGATIVE_INFINITY },
    { kind: "target", jointId: "neck-turn", target: Number.POSITIVE_INFINITY },
    { kind: "source", sourceId: "one", value: Number.NaN },
  ];
  for (const command of odd) expect(at.give(command)).toMatchObject({ ok: false });
});
