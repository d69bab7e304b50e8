import { demoProject } from "@core/demo";
import { byId } from "@core/project";
import { jointMapOf } from "@core/rig";
import { signalMakerOf } from "@core/signal";
import fc from "fast-check";
import { expect, test } from "vitest";
import { type GateLimits, type GatePassage, gateLimits, heldBack, passGate } from ".";

const project = demoProject();
const limitsOf = (id: string): GateLimits => {
  const joint = byId(project.joints, id);
  const card = byId(project.cards, joint.cardId);
  return gateLimits(jointMapOf(joint, card), signalMakerOf(byId(project.boards, joint.boardId)), card.window);
};
const at = (target: number): GatePassage => ({ target, count: 0, setPoint: 0, heldBack: heldBack.nothing });

/** The neck: 1000–2000 µs for 180°, ±80° of travel, 240 °/s, in counts of 2.45 µs. */
const neck = limitsOf("neck-turn");

test("a wish within all limits passes: 10° is 1555.6 µs, 635 counts of 2.45 µs", () => {
  const passage = at(9);
  passGate(neck, 10, 20, passage);
  expect(passage).toMatchObject({ target: 10, count: 635, heldBack: heldBack.nothing });
  expect(passage.setPoint).toBeCloseTo(1555.75, 3);
});

test("in a frame of 20 ms at 240 °/s the neck moves 4.8° and no more", () => {
  const passage = at(0);
  passGate(neck, 60, 20, passage);
  expect(passage.target).toBeCloseTo(4.8, 9);
  expect(passage.heldBack).toBe(heldBack.speed);
});

test("beyond the travel limit it stops at the limit and says so", () => {
  const passage = at(79);
  passGate(neck, 200, 20, passage);
  expect(passage).toMatchObject({ target: 80, heldBack: heldBack.travelHigh });
});

test("what is not a number changes nothing", () => {
  for (const wish of [Number.NaN, Number.POSITIVE_INFINITY]) {
    const passage = at(33);
    passGate(neck, wish, 20, passage);
    expect(passage).toMatchObject({ target: 33, heldBack: heldBack.notANumber });
  }
});

test("a narrow hard window wins over travel limits and speed", () => {
  const passage = at(70);
  passGate({ ...neck, window: { low: 1400, high: 1600 } }, 70, 20, passage);
  expect(passage.setPoint).toBeLessThanOrEqual(1600);
  expect(passage.target).toBeCloseTo(18, 6);
  expect(passage.heldBack).toBe(heldBack.window);
});

test("limits drawn in around a joint bring it in at its speed limit, never further out", () => {
  const narrow = gateLimits({ ...neck.map, lowTarget: -10, highTarget: 10 }, neck.maker, neck.window);
  const passage = at(40);
  let before = passage.target;
  for (let tick = 0; tick < 10; tick += 1) {
    passGate(narrow, 75, 20, passage);
    expect(passage.target).toBeLessThanOrEqual(before);
    expect(before - passage.target).toBeLessThanOrEqual(4.8 + 1e-9);
    before = passage.target;
  }
  expect(passage.target).toBe(10);
});

test("for any wishes on any joint of the demo, the signal stays inside the hard window", () => {
  const all = project.joints.map((joint) => limitsOf(joint.id));
  fc.assert(
    fc.property(
      fc.constantFrom(...all),
      fc.array(fc.record({ wish: fc.double(), dtMs: fc.double({ min: 0, max: 50, noNaN: true }) }), { maxLength: 40 }),
      (limits, wishes) => {
        const passage = at(limits.map.homeTarget);
        for (const { wish, dtMs } of wishes) {
          const before = passage.target;
          passGate(limits, wish, dtMs, passage);
          expect(passage.setPoint).toBeGreaterThanOrEqual(limits.window.low);
          expect(passage.setPoint).toBeLessThanOrEqual(limits.window.high);
          expect(Math.abs(passage.target - before)).toBeLessThanOrEqual((limits.map.fastestPerS * dtMs) / 1000 + 1e-9);
        }
      },
    ),
  );
});
