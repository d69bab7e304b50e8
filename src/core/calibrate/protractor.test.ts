import { expect, test } from "vitest";
import { type Curve, driftDeg, type Protractor, readDegAt, servoDegAt } from ".";

test.each<[Protractor["zeroAt"], Protractor["grows"], number, number]>([
  ["left", "clockwise", 30, 30],
  ["left", "anticlockwise", 30, 150],
  ["middle", "clockwise", -60, 30],
  ["middle", "anticlockwise", 60, 30],
])("0° at the %s, growing %s: %d° is the servo's own %d° of 180", (zeroAt, grows, read, servoDeg) => {
  const protractor = { zeroAt, grows };
  expect(servoDegAt(protractor, 180, read)).toBe(servoDeg);
  expect(readDegAt(protractor, 180, servoDeg)).toBe(read);
});

test("a horn that was put on one tooth of 25 further shows as 14.4° of drift at every angle", () => {
  const first: Curve = { kind: "line", slopePerDeg: 10, intercept: 600 };
  const later: Curve = { kind: "line", slopePerDeg: 10, intercept: 600 - 144 };
  const rows = driftDeg([first, later], [20, 90]);
  expect(rows[0]).toEqual([0, 0]);
  for (const drift of rows[1] ?? []) expect(drift).toBeCloseTo(14.4, 9);
});
