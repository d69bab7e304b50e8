import { demoProject } from "@core/demo";
import type { JointControl } from "@core/project";
import { describe, expect, test } from "vitest";
import { blended, claimantOf, handOver, isIdle, mayTake } from "./arbitration";
import { BoardOutput } from "./boardOutput";
import { enliven } from "./liveJoint";
import { owner } from "./snapshot";

const demo = demoProject();
const outputs = demo.boards.map((board) => new BoardOutput(board, demo.joints));

/** The beak's joint, with this one having it. */
function jointWith(current: number, control: Partial<JointControl> = {}) {
  const [joint] = demo.joints;
  if (!joint) throw new Error("The demo has no joint.");
  const live = enliven(demo, { ...joint, control: { ...joint.control, ...control } }, outputs);
  live.owner = current;
  return live;
}
const lead = owner.lead + 3;
const otherLead = owner.lead + 4;

test("codes have names", () => {
  expect([owner.nobody, owner.hand, owner.routine, lead].map(claimantOf)).toEqual([null, "hand", "routine", "lead"]);
});

describe("by touch", () => {
  test.each<[string, number, number, boolean, boolean, boolean]>([
    ["a hand takes it from a routine", owner.routine, owner.hand, true, false, true],
    ["a lead that moves takes it from a hand", owner.hand, lead, true, false, true],
    ["a lead that rests does not", owner.hand, lead, false, false, false],
    ["a generator takes what nobody has", owner.nobody, lead, false, true, true],
    ["a generator takes nothing from a hand", owner.hand, lead, true, true, false],
    ["a generator takes nothing from a routine", owner.routine, lead, false, true, false],
    ["a routine that is started takes it from a lead", lead, owner.routine, true, false, true],
    ["one lead takes it from another", lead, otherLead, true, false, true],
  ])("%s", (_, current, code, isTouched, isSteady, expected) => {
    expect(mayTake(jointWith(current), code, isTouched, isSteady)).toBe(expected);
  });
});

describe("by the order routine, hand, lead", () => {
  const control = { takes: "order", order: ["routine", "hand", "lead"] } as const;
  test.each<[string, number, number, boolean, boolean, boolean]>([
    ["the hand takes it all the same", owner.routine, owner.hand, true, false, true],
    ["a lead takes nothing from a routine", owner.routine, lead, true, false, false],
    ["nor from a hand", owner.hand, lead, true, false, false],
    ["a routine takes it from a lead", lead, owner.routine, true, false, true],
    ["a lead takes it from a lead by moving", lead, otherLead, true, false, true],
    ["but not by going on", lead, otherLead, false, true, false],
  ])("%s", (_, current, code, isTouched, isSteady, expected) => {
    expect(mayTake(jointWith(current, { ...control, order: [...control.order] }), code, isTouched, isSteady)).toBe(
      expected,
    );
  });

  test("who stands above takes it even by going on: a sensor that guards", () => {
    const guard = { takes: "order", order: ["lead", "routine", "hand"] } as const;
    expect(mayTake(jointWith(owner.routine, { ...guard, order: [...guard.order] }), lead, false, true)).toBe(true);
  });
});

describe("going over", () => {
  test("from 10° to a wish of 30° in 400 ms: a quarter of the time is 15.6 % of the way", () => {
    const live = jointWith(owner.hand, { blendMs: 400 });
    live.passage.target = 10;
    handOver(live, lead, 1000);
    expect(blended(live, 30, 1000)).toBe(10);
    // 0.25² × (3 − 0.5) = 0.15625
    expect(blended(live, 30, 1100)).toBeCloseTo(10 + 20 * 0.15625, 9);
    expect(blended(live, 30, 1200)).toBe(20);
    expect(blended(live, 30, 1400)).toBe(30);
    expect(live.handover).toBeNull();
  });

  test("a hand takes what nobody has at once; a lead softly; without a blend both at once; the same hand changes nothing", () => {
    const free = jointWith(owner.nobody, { blendMs: 400 });
    handOver(free, owner.hand, 0);
    expect(free.handover).toBeNull();
    const idle = jointWith(owner.nobody, { blendMs: 400 });
    handOver(idle, lead, 0);
    expect(idle.handover).toEqual({ from: 0, sinceMs: 0, ms: 400 });
    const quick = jointWith(owner.hand, { blendMs: 0 });
    handOver(quick, lead, 0);
    expect(quick.handover).toBeNull();
    const same = jointWith(lead, { blendMs: 400 });
    handOver(same, lead, 0);
    expect(same.handover).toBeNull();
  });

  test("in no other hand than a person's is anything measured: the travel limits are in force again", () => {
    for (const code of [owner.nobody, owner.routine, lead]) {
      const live = jointWith(owner.hand);
      live.isCalibrating = true;
      handOver(live, code, 0);
      expect(live.isCalibrating).toBe(false);
    }
    const measured = jointWith(owner.hand, { giveBackMs: 500 });
    measured.isCalibrating = true;
    expect(isIdle(measured, 1e9)).toBe(false);
  });

  test("what is not a number is left for the gate to refuse", () => {
    const live = jointWith(owner.hand, { blendMs: 400 });
    handOver(live, lead, 0);
    expect(blended(live, Number.NaN, 100)).toBeNaN();
  });
});

test("a hand is idle after its time, a routine never, and nobody where it is never given back", () => {
  const live = jointWith(owner.hand, { giveBackMs: 500 });
  live.touchedMs = 1000;
  expect(isIdle(live, 1500)).toBe(false);
  expect(isIdle(live, 1501)).toBe(true);
  live.owner = owner.routine;
  expect(isIdle(live, 9000)).toBe(false);
  const kept = jointWith(owner.hand, { giveBackMs: null });
  expect(isIdle(kept, 1e9)).toBe(false);
});
