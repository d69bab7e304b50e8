import { demoProject } from "@core/demo";
import { byId } from "@core/project";
import { threePointSpin } from "@core/signal";
import { expect, test } from "vitest";
import { curveOf, ratedSpeedDegPerS, spinCurveOf } from ".";

const project = demoProject();

test("a new card follows its data sheet: 1000–2000 µs over 180° is 5.556 µs per degree", () => {
  const card = byId(project.cards, "card-neck-turn");
  if (card.kind === "continuous") throw new Error("the neck turns to and fro");
  expect(curveOf(card)).toEqual({ kind: "line", slopePerDeg: 1000 / 180, intercept: 1000 });
});

test("a calibrated card follows its newest calibration", () => {
  const card = byId(project.cards, "card-neck-nod");
  if (card.kind === "continuous") throw new Error("the neck nods to and fro");
  // (1844 − 1183) / (125 − 60) = 10.169 µs per degree
  expect(curveOf(card).slopePerDeg).toBeCloseTo(10.169, 3);
});

test("a continuous servo has a neutral, and 0.2 s per 60° is 300 °/s", () => {
  const card = byId(project.cards, "card-vent-crank");
  if (card.kind !== "continuous") throw new Error("the crank turns on and on");
  expect(spinCurveOf(card)).toEqual(threePointSpin(1000, 1500, 2000));
  expect(ratedSpeedDegPerS(card)).toBeCloseTo(300, 9);
});
