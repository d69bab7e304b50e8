import { demoProject } from "@core/demo";
import type { JointControl, Lead, Project, Source } from "@core/project";
import { describe, expect, test } from "vitest";
import { type Command, Engine, jointOf, leadOf, lostOf, owner, shapeOf, snapshotLength } from ".";

const demo = demoProject();
const toDegrees = { kind: "rangeMap", from: { low: 0, high: 1000 }, to: { low: -70, high: 70 } } as const;

function engineOf(change: Partial<Project> = {}) {
  const project = { ...demo, ...change };
  const engine = new Engine();
  let nowMs = 0;
  engine.configure(project, 1);
  engine.apply({ kind: "holdAll" });
  const shape = shapeOf(project);
  const snapshot = () => {
    const written = new Float64Array(snapshotLength(shape));
    engine.write(written);
    return written;
  };
  return {
    engine,
    give: (command: Command) => engine.apply(command),
    run(ms: number) {
      for (const endMs = nowMs + ms; nowMs < endMs; nowMs += 20) engine.tick(nowMs);
    },
    read: (jointId: string, field: Parameters<typeof jointOf>[2]) =>
      jointOf(
        snapshot(),
        project.joints.findIndex((joint) => joint.id === jointId),
        field,
      ),
    lead: (leadId: string) =>
      leadOf(
        snapshot(),
        shape,
        project.leads.findIndex((lead) => lead.id === leadId),
      ),
    isLost: (sourceId: string) =>
      lostOf(
        snapshot(),
        shape.joints,
        project.sources.findIndex((one) => one.id === sourceId),
      ) === 1,
  };
}
const knob = (value: number): Command => ({ kind: "source", sourceId: "bench-knob", value });
const neck = (control: Partial<JointControl>): Partial<Project> => ({
  joints: demo.joints.map((joint) =>
    joint.id === "neck-turn" ? { ...joint, control: { ...joint.control, ...control } } : joint,
  ),
});
const hand = (target: number): Command => ({ kind: "target", jointId: "neck-turn", target });

describe("who has a joint", () => {
  test("on a change of hands nothing jumps: half-way through its blend it stands half-way", () => {
    const { give, run, read } = engineOf(neck({ blendMs: 1000 }));
    give(hand(60));
    run(2000);
    give(knob(1000 * 0.5));
    run(520);
    expect(read("neck-turn", "owner")).toBe(owner.lead);
    expect(read("neck-turn", "target")).toBeGreaterThan(25);
    expect(read("neck-turn", "target")).toBeLessThan(35);
    run(1000);
    expect(read("neck-turn", "target")).toBeCloseTo(0, 6);
  });

  test("by order a routine keeps what a lead wants, and the hand takes it all the same", () => {
    const { give, run, read } = engineOf(neck({ takes: "order", order: ["hand", "routine", "lead"], blendMs: 0 }));
    give({ kind: "play", routineId: "routine-owl-wakes" });
    run(200);
    give(knob(1000));
    run(100);
    expect(read("neck-turn", "owner")).toBe(owner.routine);
    give(hand(10));
    run(100);
    expect(read("neck-turn", "owner")).toBe(owner.hand);
  });

  test("after its time a hand gives a joint back to the routine that plays on; at once when told to", () => {
    const { give, run, read } = engineOf(neck({ giveBackMs: 500 }));
    give({ kind: "play", routineId: "routine-owl-wakes" });
    run(200);
    give(hand(10));
    run(400);
    expect(read("neck-turn", "owner")).toBe(owner.hand);
    run(300);
    expect(read("neck-turn", "owner")).toBe(owner.routine);
    give(hand(10));
    give({ kind: "giveBack", jointId: "neck-turn" });
    run(20);
    expect(read("neck-turn", "owner")).toBe(owner.routine);
  });

  test("what goes on by itself takes only what nobody has", () => {
    const sources = demo.sources.map((source) => (source.id === "breath" ? { ...source, isMuted: false } : source));
    const { give, run, read } = engineOf({ sources });
    run(100);
    expect(read("ear-tuft", "owner")).toBe(owner.lead + 2);
    give({ kind: "target", jointId: "ear-tuft", target: 5 });
    run(3000);
    expect(read("ear-tuft", "owner")).toBe(owner.hand);
    expect(read("ear-tuft", "target")).toBeCloseTo(5, 6);
    give({ kind: "giveBack", jointId: "ear-tuft" });
    run(100);
    expect(read("ear-tuft", "owner")).toBe(owner.lead + 2);
  });

  test("a release of everything beats all, and no lead holds a joint again", () => {
    const { give, run, read } = engineOf();
    give(knob(1000));
    run(500);
    give({ kind: "releaseAll" });
    give(knob(0));
    run(100);
    expect(read("neck-turn", "isHeld")).toBe(0);
    expect(read("neck-turn", "count")).toBeNaN();
  });
});

describe("leads", () => {
  test("muted, not in solo, or in a test: worked out, but nothing moves", () => {
    const { give, run, read, lead } = engineOf();
    give({ kind: "testInputs", isOn: true });
    give(knob(1000));
    run(1000);
    expect(lead("lead-knob-turn")).toBe(70);
    expect(read("neck-turn", "target")).toBe(0);
    give({ kind: "testInputs", isOn: false });
    give({ kind: "solo", leadId: "lead-stick-nod", sourceId: null });
    give(knob(1022));
    run(1000);
    expect(read("neck-turn", "target")).toBe(0);
    give({ kind: "solo", leadId: null, sourceId: null });
    run(500);
    // What was moved meanwhile is not taken up by itself.
    expect(read("neck-turn", "target")).toBe(0);
    give(knob(1000));
    run(1000);
    expect(read("neck-turn", "target")).toBeCloseTo(70, 6);
  });

  test("a blend carries all joints of two poses", () => {
    const blend: Lead = {
      id: "blend",
      sourceId: "lid-slider",
      target: { kind: "blend", fromPoseId: "pose-watch", toPoseId: "pose-look-left" },
      shapers: [{ kind: "rangeMap", from: { low: 0, high: 255 }, to: { low: 0, high: 1 } }],
      isMuted: false,
    };
    const { give, run, read } = engineOf({ leads: [blend] });
    give({ kind: "source", sourceId: "lid-slider", value: 127.5 });
    run(2000);
    // Half-way between 0 and −55, and between 50 and 55.
    expect(read("neck-turn", "target")).toBeCloseTo(-27.5, 6);
    expect(read("left-lid", "target")).toBeCloseTo(52.5, 6);
  });

  test("a short press of the call button goes to its pose, once; a held button does nothing", () => {
    const { give, run, read } = engineOf();
    const button = (value: number) => give({ kind: "source", sourceId: "call-button", value });
    button(0);
    run(40);
    button(1);
    run(100);
    button(0);
    run(1500);
    expect(read("beak", "target")).toBeCloseTo(30, 6);
    give({ kind: "target", jointId: "beak", target: 0 });
    button(1);
    run(2000);
    button(0);
    run(500);
    expect(read("beak", "target")).toBeCloseTo(0, 6);
  });

  test("a capture and a refusal are left to the page to do and to say", () => {
    const act = (id: string, action: Extract<Lead["target"], { kind: "action" }>["action"]): Lead => ({
      id,
      sourceId: "call-button",
      target: { kind: "action", action },
      shapers: [],
      isMuted: false,
    });
    const { engine, give, run } = engineOf({
      leads: [act("a", { kind: "capture" }), act("b", { kind: "play", routineId: "routine-owl-wakes" })],
    });
    give({ kind: "releaseAll" });
    for (const value of [0, 1]) {
      give({ kind: "source", sourceId: "call-button", value });
      run(40);
    }
    expect(engine.takeAsked()).toMatchObject([{ kind: "capture" }, { kind: "tell" }]);
    expect(engine.takeAsked()).toEqual([]);
  });
});

test("a lead that has a joint lets it go while its servo is measured, until its source is moved", () => {
  const sources = demo.sources.map((source) => (source.id === "breath" ? { ...source, isMuted: false } : source));
  const { give, run, read } = engineOf({ sources });
  run(100);
  give({ kind: "calibrate", jointId: "ear-tuft", isOn: true });
  give({ kind: "setPoint", jointId: "ear-tuft", setPoint: 1900 });
  run(3000);
  expect(read("ear-tuft", "owner")).toBe(owner.hand);
  // Beyond its travel limits of −25…40°, which rest.
  expect(read("ear-tuft", "setPoint")).toBeGreaterThan(1890);
});

test("another source beside it does not make a chain forget: a toggle stays on", () => {
  const lead: Lead = {
    id: "wink",
    sourceId: "call-button",
    target: { kind: "joint", jointId: "right-lid" },
    shapers: [{ kind: "toggle" }, { kind: "rangeMap", from: { low: 0, high: 1 }, to: { low: 0, high: 60 } }],
    isMuted: false,
  };
  const { engine, give, run, lead: outOf } = engineOf({ leads: [lead] });
  for (const value of [0, 1, 0]) {
    give({ kind: "source", sourceId: "call-button", value });
    run(40);
  }
  expect(outOf("wink")).toBe(60);
  const [knobSource] = demo.sources;
  if (!knobSource) throw new Error("The demo has no source.");
  engine.configure({ ...demo, leads: [lead], sources: [{ ...knobSource, id: "more" }, ...demo.sources] }, 2);
  run(40);
  const written = new Float64Array(
    snapshotLength({ joints: demo.joints.length, sources: demo.sources.length + 1, leads: 1 }),
  );
  engine.write(written);
  expect(written.at(-1)).toBe(60);
});

describe("sources that vanish", () => {
  const vane: Source = {
    ...(demo.sources.find((source) => source.id === "vane") as Source),
    ifLost: { kind: "value", value: 0, afterMs: 1000 },
  };
  const lead: Lead = {
    id: "vane-turn",
    sourceId: "vane",
    target: { kind: "joint", jointId: "neck-turn" },
    shapers: [{ ...toDegrees, from: { low: 0, high: 359 } }],
    isMuted: false,
  };

  test("a line is heard from the board that it is wired to, and from no other; from any where it is wired to none", () => {
    const free: Source = { ...vane, id: "free", origin: { kind: "line", name: "vane", boardId: null } };
    const { engine, run, isLost } = engineOf({ sources: [vane, free], leads: [lead] });
    for (let at = 0; at < 130; at += 1) {
      engine.hear("moss", "vane", 200);
      run(20);
    }
    expect([isLost("vane"), isLost("free")]).toEqual([false, false]);
    engine.hear("pebble", "vane", 359);
    run(2300);
    expect([isLost("vane"), isLost("free")]).toEqual([true, true]);
  });

  test("a line that falls silent is lost after two seconds, and goes to its value after its time", () => {
    const { engine, run, read, isLost } = engineOf({ sources: [vane], leads: [lead] });
    run(100);
    engine.hear("pebble", "vane", 359);
    run(1900);
    expect(read("neck-turn", "target")).toBeCloseTo(70, 6);
    expect(isLost("vane")).toBe(false);
    run(300);
    expect(isLost("vane")).toBe(true);
    expect(read("neck-turn", "target")).toBeCloseTo(70, 6);
    run(2500);
    expect(read("neck-turn", "target")).toBeCloseTo(-70, 6);
    engine.hear("pebble", "vane", 359);
    run(1500);
    expect(isLost("vane")).toBe(false);
  });

  test("one that only holds leaves its joint where it was", () => {
    const { give, run, read, isLost } = engineOf();
    give(knob(1000));
    run(1000);
    give({ kind: "lost", sourceId: "bench-knob", isLost: true });
    run(5000);
    expect(isLost("bench-knob")).toBe(true);
    expect(read("neck-turn", "target")).toBeCloseTo(70, 6);
  });
});

describe("what comes from another machine", () => {
  const afar: Source = {
    id: "shelf",
    label: "Shelf",
    range: { low: 0, high: 1000 },
    origin: { kind: "mqtt", topic: "knob", isHand: true, silentAfterMs: null },
    isMuted: false,
    ifLost: { kind: "hold" },
  };
  const lead = (sourceId: string): Lead => ({
    id: "afar",
    sourceId,
    target: { kind: "joint", jointId: "neck-turn" },
    shapers: [toDegrees],
    isMuted: false,
  });
  const withSource = (source: Source): Partial<Project> => ({ sources: [source], leads: [lead(source.id)], pads: [] });

  test("it stays within the source's range, and what says the same again takes nothing", () => {
    const { engine, run, read, give } = engineOf(withSource(afar));
    expect([engine.hearFrom("mqtt:other", 5), engine.hearFrom("mqtt:knob", 9e9)]).toEqual([false, true]);
    run(1000);
    expect(read("neck-turn", "target")).toBe(70);
    give(hand(10));
    run(1000);
    engine.hearFrom("mqtt:knob", 9e9);
    run(1000);
    expect(read("neck-turn", "target")).toBe(10);
  });

  test("back from a loss it moves nothing until it is moved, and then goes there softly", () => {
    const { engine, run, read, give } = engineOf(withSource(afar));
    engine.hearFrom("mqtt:knob", 0);
    run(1000);
    give({ kind: "lost", sourceId: "shelf", isLost: true });
    run(500);
    engine.hearFrom("mqtt:knob", 0);
    run(500);
    expect(read("neck-turn", "target")).toBe(-70);
    give({ kind: "lost", sourceId: "shelf", isLost: true });
    run(100);
    engine.hearFrom("mqtt:knob", 1000);
    run(220);
    expect(Math.abs(read("neck-turn", "target"))).toBeLessThan(30);
    run(1000);
    expect(read("neck-turn", "target")).toBe(70);
  });

  test("what is lost may be released after its time; the joints of others are not", () => {
    const { engine, run, read, give } = engineOf(withSource({ ...afar, ifLost: { kind: "release", afterMs: 1000 } }));
    engine.hearFrom("mqtt:knob", 600);
    run(500);
    give({ kind: "lost", sourceId: "shelf", isLost: true });
    run(900);
    expect(read("neck-turn", "isHeld")).toBe(1);
    run(200);
    expect([read("neck-turn", "isHeld"), read("neck-nod", "isHeld")]).toEqual([0, 1]);
  });

  test("a thumb that lets go leaves its joint where it stands, also in the very step in which it moved", () => {
    const { run, read, give } = engineOf(withSource({ ...afar, origin: { kind: "knob" } }));
    give({ kind: "source", sourceId: "shelf", value: 800 });
    run(100);
    const stands = read("neck-turn", "target");
    give({ kind: "source", sourceId: "shelf", value: 0 });
    give({ kind: "letGo", sourceId: "shelf" });
    run(1000);
    expect([read("neck-turn", "target"), read("neck-turn", "owner")]).toEqual([stands, owner.nobody]);
  });

  test("a cue is on for one step, and an action is done once for each", () => {
    const cue: Source = { ...afar, id: "go", range: { low: 0, high: 1 }, origin: { kind: "cue", name: "go" } };
    const play: Lead = {
      ...lead("go"),
      target: { kind: "action", action: { kind: "cue", name: "next" } },
      shapers: [],
    };
    const { engine, run } = engineOf({ sources: [cue], leads: [play], pads: [] });
    run(100);
    for (let time = 0; time < 2; time += 1) {
      engine.hearFrom("cue:go", 1);
      engine.hearFrom("cue:go", 0);
      run(100);
      expect(engine.takeAsked()).toEqual([{ kind: "cue", name: "next" }]);
    }
  });
});
