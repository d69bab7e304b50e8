import { expect, test } from "vitest";
import { adviseCheck, type Curve, checkSteps, reportCheck } from ".";

/** 10 µs per degree, 600 µs at 0°. */
const curve: Curve = { kind: "line", slopePerDeg: 10, intercept: 600 };

test("five angles across −80…80°, upward and back down; only the ends need a run-up of their own", () => {
  const steps = checkSteps(-80, 80);
  // 6 % of 160° is 9.6° of room at either end.
  expect(steps.map((step) => Math.round(step.targetDeg * 10) / 10)).toEqual([
    -70.4, -35.2, 0, 35.2, 70.4, 70.4, 35.2, 0, -35.2, -70.4,
  ]);
  expect(steps[0]).toMatchObject({ approachDeg: -80, cameFrom: "below" });
  expect(steps[5]).toMatchObject({ approachDeg: 80, cameFrom: "above" });
  for (const { targetDeg, approachDeg, cameFrom } of steps)
    expect(Math.sign(targetDeg - approachDeg)).toBe(cameFrom === "below" ? 1 : -1);
});

test("mean, largest, bias and play, by hand: 1° of play shows as half a degree either way", () => {
  const report = reportCheck(curve, [
    { setPoint: 1100, cameFrom: "below", seenDeg: 49.5 },
    { setPoint: 1500, cameFrom: "below", seenDeg: 89.5 },
    { setPoint: 1500, cameFrom: "above", seenDeg: 90.5 },
    { setPoint: 1100, cameFrom: "above", seenDeg: 50.5 },
  ]);
  expect(report.errorsDeg).toEqual([0.5, 0.5, -0.5, -0.5]);
  expect(report).toMatchObject({ meanDeg: 0.5, largestDeg: 0.5, biasDeg: 0, backlashDeg: 1 });
});

test("readings from one side alone say nothing of play", () => {
  expect(reportCheck(curve, [{ setPoint: 1500, cameFrom: "below", seenDeg: 90 }]).backlashDeg).toBeNull();
});

test.each([
  [[90.4, 110.4, 111, 90.8], "accept it"],
  [[88, 108, 112, 92], "play in the gears, 4.0°"],
  [[94, 114, 114.2, 94.1], "as when a horn has slipped"],
  [[90, 116, 116, 90], "The curve does not fit"],
])("seen %j instead of 90, 110, 110, 90: %s", (seen, says) => {
  const readings = [1500, 1700, 1700, 1500].map((setPoint, at) => ({
    setPoint,
    cameFrom: at < 2 ? ("below" as const) : ("above" as const),
    seenDeg: seen[at] as number,
  }));
  expect(adviseCheck(reportCheck(curve, readings))).toContain(says);
});
