import { demoProject } from "@core/demo";
import { byId } from "@core/project";
import fc from "fast-check";
import { expect, test } from "vitest";
import { jointMapOf } from ".";

const project = demoProject();
const mapOf = (id: string) => {
  const joint = byId(project.joints, id);
  return jointMapOf(joint, byId(project.cards, joint.cardId));
};

test("the neck at 0° is 90° of its servo: 1500 µs by the data sheet; at 36° it is 1700 µs", () => {
  expect(mapOf("neck-turn").toSetPoint(0)).toBeCloseTo(1500, 9);
  expect(mapOf("neck-turn").toSetPoint(36)).toBeCloseTo(1700, 9);
});

test("the right lid is built in mirrored: 30° open is 90° of its servo", () => {
  expect(mapOf("right-lid").toSetPoint(30)).toBeCloseTo(1500, 9);
  expect(mapOf("right-lid").toSetPoint(60)).toBeCloseTo(1000 + (60 / 180) * 1000, 9);
});

test("the turntable at 0° is tick 18 000, at 90° tick 27 000", () => {
  expect(mapOf("turntable").toSetPoint(0)).toBeCloseTo(18_000, 9);
  expect(mapOf("turntable").toSetPoint(90)).toBeCloseTo(27_000, 9);
});

test("every joint of the demo maps there and back", () => {
  const maps = project.joints.map((joint) => mapOf(joint.id));
  fc.assert(
    fc.property(fc.constantFrom(...maps), fc.double({ min: 0, max: 1, noNaN: true }), (map, share) => {
      const target = map.lowTarget + share * (map.highTarget - map.lowTarget);
      expect(map.toTarget(map.toSetPoint(target))).toBeCloseTo(target, 6);
    }),
  );
});
