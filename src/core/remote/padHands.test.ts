import { demoProject } from "@core/demo";
import type { Command } from "@core/engine";
import { byId } from "@core/project";
import { describe, expect, test } from "vitest";
import { type Device, type Hand, PadHands, usualRights } from ".";

const demo = demoProject();
const ada: Device = { id: "ada", name: "Ada's phone", rights: usualRights };
const bob: Device = { id: "bob", name: "Bob's phone", rights: usualRights };

/** Thumbs that are told what they do, and what the bench is asked because of it. */
function handsOf(devices: readonly Device[] = [ada, bob], project = demo) {
  const done: Command[] = [];
  const told: string[] = [];
  const hands = new PadHands({
    act: (command) => done.push(command),
    tell: (deviceId, sentence) => told.push(`${deviceId}: ${sentence}`),
    onVanished: ({ name }, labels) => told.push(`${name} is gone: ${labels.join()}`),
  });
  hands.configure(project);
  hands.setDevices(devices);
  let seq = 0;
  return {
    hands,
    told,
    /** What was asked since this was asked last. */
    done: () => done.splice(0),
    say: (deviceId: string, list: readonly Hand[], sentMs: number, nowMs = sentMs + 5, run = 1) =>
      hands.hear(
        deviceId,
        { run, seq: ++seq, hands: list },
        sentMs,
        list.map(({ downAtMs }) => downAtMs),
        nowMs,
      ),
  };
}

const thumb = (id: string, x: number | null, change: Partial<Hand> = {}): Hand => ({
  id,
  x,
  y: null,
  isDown: true,
  downs: 1,
  downAtMs: 1000,
  ...change,
});
const knobAt = (value: number, atMs: number) => ({ kind: "source", sourceId: "bench-knob", value, atMs });

describe("what a thumb does", () => {
  test("a slider gives its share of the source's own range, once for each place", () => {
    const { say, done } = handsOf();
    say("ada", [thumb("pad-turn", 0.25)], 1000);
    say("ada", [thumb("pad-turn", 0.25)], 1050);
    say("ada", [thumb("pad-turn", 0.5)], 1100);
    expect(done()).toEqual([knobAt(250, 1000), knobAt(500, 1100)]);
  });

  test("where it leaves counts, also when nothing was heard of it before", () => {
    const { say, done } = handsOf();
    say("ada", [thumb("pad-turn", 0.75, { isDown: false })], 1100);
    say("ada", [thumb("pad-turn", 0.75, { isDown: false })], 1150);
    expect(done()).toEqual([knobAt(750, 1100)]);
  });

  test("a pose, a stop and a routine are done once for each press, and never late", () => {
    const { say, done } = handsOf();
    say("ada", [thumb("pad-pose-watch", null)], 1000);
    say("ada", [thumb("pad-pose-watch", null)], 1050);
    say("ada", [thumb("pad-pose-watch", null, { isDown: false })], 1100);
    expect(done()).toEqual([{ kind: "goToPose", poseId: "pose-watch", moveMs: 800 }]);
    say("ada", [thumb("pad-owl", 1, { downs: 3, downAtMs: 1200 }), thumb("pad-stop", null, { downAtMs: 1210 })], 1220);
    expect(done()).toEqual([{ kind: "play", routineId: "routine-owl-wakes" }, { kind: "stop" }]);
    // Pressed while nothing came through, and told a second later.
    say("ada", [thumb("pad-pose-watch", null, { downs: 2, downAtMs: 1300 })], 2300);
    say("ada", [thumb("pad-owl", 0, { downs: 4, downAtMs: 2290 })], 2350);
    expect(done()).toEqual([{ kind: "stop" }]);
  });

  test("a switch that is on only under a thumb is off when the thumb is gone, however it went", () => {
    const call = byId(demo.sources, "call-button");
    const pads = [
      {
        id: "p",
        label: "P",
        controls: [
          {
            kind: "button",
            id: "call",
            label: "",
            span: { wide: 1, high: 1 },
            isHeldToMove: false,
            sourceId: call.id,
            how: "hold",
          },
        ],
      },
    ] as const;
    const { say, done, hands } = handsOf([ada], { ...demo, pads });
    say("ada", [thumb("call", null)], 1000);
    hands.tick(1900);
    expect(done().map((one) => "value" in one && one.value)).toEqual([1]);
    hands.tick(2100);
    expect(done()).toMatchObject([{ value: 0 }, { kind: "lost", isLost: true }]);
    // It came and went between two messages.
    say("ada", [thumb("call", null, { isDown: false, downs: 2, downAtMs: 2200 })], 2250);
    expect(done()).toMatchObject([{ kind: "lost", isLost: false }, { value: 1 }, { value: 0 }]);
  });
});

describe("messages that are late, doubled or overtaken", () => {
  test("what is older than what was heard, or came twice, does nothing", () => {
    const { hands, done } = handsOf();
    const say = (seq: number, x: number, run = 1) =>
      hands.hear("ada", { run, seq, hands: [thumb("pad-turn", x)] }, 1000 + seq, [1000], 1010 + seq);
    expect([say(5, 0.5), say(5, 0.5), say(3, 0.1), say(6, 0.6)]).toEqual(["taken", "old", "old", "taken"]);
    // The next connection counts from the beginning; the one before is over.
    expect([say(1, 0.7, 2), say(9, 0.2, 1)]).toEqual(["taken", "old"]);
    expect(done().flatMap((one) => ("value" in one ? [one.value] : []))).toEqual([500, 600, 700]);
  });

  test.each([
    ["half a second old", 1000, 1501],
    ["of no time at all", Number.NaN, 1000],
  ])("what is %s moves nothing", (_, sentMs, nowMs) => {
    const { say, done } = handsOf();
    expect(say("ada", [thumb("pad-turn", 0.5)], sentMs, nowMs)).toBe("late");
    expect(done()).toEqual([]);
  });
});

describe("hold to move", () => {
  test("it stops as soon as the thumb is lifted, and moves nothing behind it", () => {
    const { say, done } = handsOf();
    say("ada", [thumb("pad-nod", 0.9)], 1000);
    say("ada", [thumb("pad-nod", 1, { isDown: false })], 1100);
    expect(done()).toEqual([
      { kind: "source", sourceId: "stick-y", value: 0.9 * 1000, atMs: 1000 },
      { kind: "letGo", sourceId: "stick-y" },
    ]);
  });

  test("it stops within a quarter of a second of the last sign of life, and goes on when the thumb is heard of again", () => {
    const { say, done, hands } = handsOf();
    say("ada", [thumb("pad-nod", 0.9)], 1000);
    hands.tick(1250);
    expect(done()).toHaveLength(1);
    hands.tick(1251);
    expect(done()).toEqual([{ kind: "letGo", sourceId: "stick-y" }]);
    hands.tick(1271);
    expect(done()).toEqual([]);
    say("ada", [thumb("pad-nod", 0.9)], 1400);
    expect(done()).toMatchObject([{ kind: "source" }]);
  });

  test("a sign of life that was long on its way is none", () => {
    const { say, done } = handsOf();
    expect(say("ada", [thumb("pad-nod", 0.9)], 1000, 1300)).toBe("taken");
    expect(done()).toEqual([]);
  });
});

describe("who may", () => {
  const may = (rights: Partial<Device["rights"]>): Device => ({ ...ada, rights: { ...usualRights, ...rights } });

  test.each([
    ["looks only", may({ isLookOnly: true })],
    ["may move other joints", may({ jointIds: ["beak"] })],
    ["sees another pad", may({ padId: "another" })],
  ])("who %s moves nothing, and is told so once", (_, device) => {
    const { say, done, told } = handsOf([device]);
    say("ada", [thumb("pad-turn", 0.5)], 1000);
    say("ada", [thumb("pad-turn", 0.6), thumb("pad-pose-watch", null)], 1050);
    expect(done()).toEqual([]);
    expect(told).toEqual(Array(2).fill("ada: This pad may only look at that."));
  });

  test("a pose needs all its joints", () => {
    const { say, done } = handsOf([may({ jointIds: ["left-lid", "right-lid", "neck-turn"] })]);
    say("ada", [thumb("pad-pose-watch", null), thumb("pad-pose-blink", null), thumb("pad-turn", 1)], 1010);
    expect(done().map(({ kind }) => kind)).toEqual(["goToPose", "source"]);
  });

  test("of two thumbs on one source the first has it until it leaves; the other is told whose it is", () => {
    const { say, done, told } = handsOf();
    say("ada", [thumb("pad-turn", 0.2)], 1000);
    say("bob", [thumb("pad-turn", 0.9)], 1020);
    expect(told).toEqual(["bob: Ada's phone has it."]);
    say("ada", [thumb("pad-turn", 0.2, { isDown: false })], 1040);
    say("bob", [thumb("pad-turn", 0.9)], 1060);
    expect(done()).toEqual([knobAt(200, 1000), knobAt(900, 1060)]);
  });

  test("rights that are taken away take the thumb off; who is thrown out is nobody", () => {
    const { say, done, hands } = handsOf();
    say("ada", [thumb("pad-nod", 0.9)], 1000);
    hands.setDevices([{ ...ada, rights: { ...usualRights, isLookOnly: true } }, bob]);
    expect(done()).toMatchObject([{ kind: "source" }, { kind: "letGo" }]);
    expect(hands.touches).toEqual([]);
    hands.setDevices([bob]);
    expect(say("ada", [thumb("pad-turn", 0.9)], 1100)).toBe("unknown");
  });
});

describe("a pad that vanishes", () => {
  test("its sources are lost, and are back when it is", () => {
    const { say, done, told, hands } = handsOf();
    say("ada", [thumb("pad-turn", 0.2, { isDown: false })], 1000);
    done();
    hands.tick(2006);
    expect(done()).toEqual([{ kind: "lost", sourceId: "bench-knob", isLost: true }]);
    expect(told).toEqual(["Ada's phone is gone: Bench knob"]);
    say("ada", [], 2100);
    expect(done()).toEqual([{ kind: "lost", sourceId: "bench-knob", isLost: false }]);
  });

  test("what somebody at the bench has moved since is not lost with it", () => {
    const { say, done, hands } = handsOf();
    say("ada", [thumb("pad-turn", 0.2, { isDown: false })], 1000);
    hands.movedHere("bench-knob");
    done();
    hands.lost("ada");
    expect(done()).toEqual([]);
  });

  test("a control that is made to work another source lets the old one go, and the other pad may have it", () => {
    const { say, done, hands } = handsOf();
    say("ada", [thumb("pad-turn", 0.2)], 1000);
    done();
    const pads = demo.pads.map((pad) => ({
      ...pad,
      controls: [
        ...pad.controls.map((one) =>
          one.id === "pad-turn" && one.kind === "slider" ? { ...one, sourceId: "lid-slider" } : one,
        ),
        { ...(pad.controls[0] as (typeof pad.controls)[0]), id: "second" },
      ],
    }));
    hands.configure({ ...demo, pads });
    expect(hands.touches).toEqual([]);
    say("bob", [thumb("second", 0.7)], 1100);
    expect(done()).toEqual([knobAt(700, 1100)]);
  });

  test("a control that is taken off its pad has no thumb on it any more", () => {
    const { say, done, hands } = handsOf();
    say("ada", [thumb("pad-nod", 0.9)], 1000);
    hands.configure({ ...demo, pads: [] });
    expect(done()).toMatchObject([{ kind: "source" }, { kind: "letGo", sourceId: "stick-y" }]);
    expect(hands.touches).toEqual([]);
  });
});
