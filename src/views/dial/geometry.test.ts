import { demoProject } from "@core/demo";
import { byId } from "@core/project";
import { jointBenchOf } from "@core/rig";
import fc from "fast-check";
import { expect, test } from "vitest";
import { arcPath, dialDegOf, dialFootOf, everyStep, pointAt, roundTicks, targetAtDialDeg } from "./geometry";
import { outerMeasureOf } from "./outerScale";

const project = demoProject();
const benchOf = (id: string) => jointBenchOf(project, byId(project.joints, id));

test("angles are drawn one to one, with the middle of the servo's travel at the top", () => {
  const { scale } = benchOf("neck-turn");
  expect(dialDegOf(scale, 0)).toBe(0);
  expect(dialDegOf(scale, 45)).toBe(45);
  expect(dialDegOf(benchOf("left-lid").scale, 30)).toBe(0);
});

test("what lies beyond the dial stands at its end", () => {
  const { scale } = benchOf("neck-turn");
  expect(dialDegOf(scale, 500)).toBe(150);
  expect(dialDegOf(scale, -500)).toBe(-150);
});

test("full spin is 120° from the top", () => {
  expect(dialDegOf(benchOf("vent-crank").scale, -1)).toBe(-120);
  expect(targetAtDialDeg(benchOf("vent-crank").scale, 60)).toBe(0.5);
});

test("a place on the dial and its target lead to each other, for every joint", () => {
  const scales = project.joints.map((joint) => benchOf(joint.id).scale);
  fc.assert(
    fc.property(fc.constantFrom(...scales), fc.double({ min: -0.99, max: 0.99, noNaN: true }), (scale, share) => {
      const target = scale.centre + share * scale.reach;
      expect(targetAtDialDeg(scale, dialDegOf(scale, target))).toBeCloseTo(target, 9);
    }),
  );
});

test("0° is up, 90° is to the right, and y grows downward", () => {
  expect(pointAt(0, 100).y).toBeCloseTo(-100, 9);
  expect(pointAt(90, 100).x).toBeCloseTo(100, 9);
  expect(pointAt(180, 100).y).toBeCloseTo(100, 9);
});

test("an arc of more than half a circle takes the long way", () => {
  expect(arcPath(-60, 60, 10)).toContain(" 0 0 1 ");
  expect(arcPath(-150, 150, 10)).toContain(" 0 1 1 ");
});

test("a dial that reaches far down gets the room for it", () => {
  expect(dialFootOf(benchOf("neck-turn").scale)).toBeGreaterThan(150);
  expect(dialFootOf(benchOf("neck-nod").scale)).toBeLessThan(60);
});

test("ticks are round numbers: 500 to 2500 in about nine is every 500 or 200", () => {
  expect(roundTicks(500, 2500, 9)).toMatchObject({ step: 500, values: [500, 1000, 1500, 2000, 2500] });
  expect(roundTicks(0, 1, 10).step).toBeCloseTo(0.1, 12);
  expect(everyStep(-30, 30, 15)).toEqual([-30, -15, 0, 15, 30].map((value) => value + 0));
});

test("the outer scale speaks µs, per cent or counts; of a smart servo always ticks", () => {
  const neck = benchOf("neck-turn");
  expect(outerMeasureOf(neck, "set point").ofSetPoint(1500)).toBe(1500);
  expect(outerMeasureOf(neck, "duty").ofSetPoint(1500)).toBeCloseTo(7.4737, 4);
  expect(outerMeasureOf(neck, "number").ofSetPoint(1500)).toBeCloseTo(612.245, 3);
  expect(outerMeasureOf(benchOf("shoulder"), "duty").unit).toBe("ticks");
  for (const unit of ["set point", "duty", "number"] as const) {
    const measure = outerMeasureOf(neck, unit);
    expect(measure.toSetPoint(measure.ofSetPoint(1234))).toBeCloseTo(1234, 9);
  }
});
