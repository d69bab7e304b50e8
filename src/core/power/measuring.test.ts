import { expect, test } from "vitest";
import { measureGuide } from ".";
import { demo } from "./fixtures";

test("where to break the circuit is named by wire, colour and ends; each range bears what is expected", () => {
  const { where, steps } = measureGuide(demo, "vent-crank");
  const number = demo.runs.findIndex(({ to }) => to.id === "vent-crank") + 1;
  expect(where).toContain(`W${number}`);
  expect(where).toContain("towards 5 V rail");
  expect(steps.map(({ reading, rangeA }) => [reading, rangeA])).toEqual([
    // 9 mA, 225 mA and 900 mA by its rating.
    ["idle", 0.02],
    ["moving", 2],
    ["held", 2],
    ["highest", 2],
  ]);
  for (const { rangeA, expectedA } of steps) expect(rangeA).toBeGreaterThanOrEqual(1.5 * expectedA);
});
