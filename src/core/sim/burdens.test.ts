import { demoProject } from "@core/demo";
import type { Project } from "@core/project";
import { expect, test } from "vitest";
import { Burdens, SimServo, truthOf } from ".";

/** Which share of its torque the shoulder of the demo's arm bears, with this share of its parts' masses. */
function shoulderBears(massShare: number, elbowDeg: number): number {
  const demo = demoProject();
  const project: Project = {
    ...demo,
    figures: demo.figures.map((figure) => ({
      ...figure,
      parts: figure.parts.map((part) => ({ ...part, massG: part.massG * massShare })),
      springs: [],
    })),
  };
  const servos = new Map(
    demo.cards.map((card) => [card.id, new SimServo({ ...truthOf(card, demo.simulated), startDeg: 0 } as never)]),
  );
  const standAt = (jointId: string, jointDeg: number) => {
    const joint = demo.joints.find(({ id }) => id === jointId);
    const servo = servos.get(joint?.cardId ?? "");
    if (joint?.axis.kind !== "angle" || !servo) throw new Error(`no ${jointId}`);
    servo.angleDeg = joint.axis.zeroDeg + joint.axis.direction * jointDeg;
    return { servo, direction: joint.axis.direction };
  };
  standAt("elbow", elbowDeg);
  const { servo, direction } = standAt("shoulder", 90);
  new Burdens(project).weigh((cardId) => servos.get(cardId));
  return servo.burden * direction;
}

test("stretched out, the arm weighs on its shoulder; twice as heavy, twice as much; without mass, not at all", () => {
  const stretched = shoulderBears(1, 0);
  expect(Math.abs(stretched)).toBeGreaterThan(0.05);
  expect(shoulderBears(2, 0)).toBeCloseTo(2 * stretched, 9);
  expect(shoulderBears(0, 0)).toBe(0);
});

test("drawn in at the elbow it weighs less", () => {
  expect(Math.abs(shoulderBears(1, 120))).toBeLessThan(Math.abs(shoulderBears(1, 0)));
});
