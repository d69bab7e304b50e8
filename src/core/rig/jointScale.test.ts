import { demoProject } from "@core/demo";
import { byId } from "@core/project";
import { expect, test } from "vitest";
import { jointMapOf, jointScaleOf } from ".";

const project = demoProject();
const scaleOf = (id: string) => {
  const joint = byId(project.joints, id);
  const card = byId(project.cards, joint.cardId);
  return jointScaleOf(joint, card, jointMapOf(joint, card));
};

test("the neck by its data sheet: 500…2500 µs would be ±180°, more than a dial can show", () => {
  expect(scaleOf("neck-turn")).toEqual({
    centre: 0,
    reach: 150,
    travelLow: -80,
    travelHigh: 80,
    home: 0,
    windowLow: -180,
    windowHigh: 180,
    stops: [-90, 90],
  });
});

test("the mirrored lid has its landmarks in ascending order all the same", () => {
  const { stops, centre, windowLow, windowHigh } = scaleOf("right-lid");
  expect(stops).toEqual([-60, 120]);
  expect(centre).toBe(30);
  expect(windowLow).toBeLessThan(windowHigh);
});

test("the crank's scale is spin, with no stops", () => {
  expect(scaleOf("vent-crank")).toMatchObject({ centre: 0, reach: 1, stops: null, home: 0 });
});
