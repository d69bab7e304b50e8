import { expect, test } from "vitest";
import { bestLine, lineThrough, toAngleDeg, toSetPoint } from ".";

test("1000 µs seen at 45° and 2000 µs at 135° is 11.11 µs per degree, and 500 µs at 0°", () => {
  const line = lineThrough({ angleDeg: 45, setPoint: 1000 }, { angleDeg: 135, setPoint: 2000 });
  if (!line.ok) throw new Error(line.problem);
  expect(line.value.slopePerDeg).toBeCloseTo(11.1111, 4);
  expect(line.value.intercept).toBeCloseTo(500, 9);
  expect(toSetPoint(line.value, 180)).toBeCloseTo(2500, 9);
  expect(toAngleDeg(line.value, 1500)).toBeCloseTo(90, 9);
});

test("the order of the points does not matter, and a reversed servo slopes down", () => {
  const a = { angleDeg: 160, setPoint: 700 };
  const b = { angleDeg: 20, setPoint: 2100 };
  expect(lineThrough(a, b)).toEqual(lineThrough(b, a));
  expect(lineThrough(a, b)).toMatchObject({ value: { slopePerDeg: -10, intercept: 2300 } });
});

test("points closer than 1°, the same pulse twice, and not-a-number are refused", () => {
  expect(lineThrough({ angleDeg: 90, setPoint: 1500 }, { angleDeg: 90.5, setPoint: 1510 }).ok).toBe(false);
  expect(lineThrough({ angleDeg: 0, setPoint: 1500 }, { angleDeg: 90, setPoint: 1500 }).ok).toBe(false);
  expect(lineThrough({ angleDeg: Number.NaN, setPoint: 1500 }, { angleDeg: 90, setPoint: 1000 }).ok).toBe(false);
  expect(bestLine([{ angleDeg: 0, setPoint: 1 }]).ok).toBe(false);
});

test("least squares through (0, 1000), (90, 1530), (180, 2000): worked by hand", () => {
  // means 90 and 1510; shared = −90 × −510 + 90 × 490 = 90 000; spread = 16 200; slope 5.5556.
  const line = bestLine([
    { angleDeg: 0, setPoint: 1000 },
    { angleDeg: 90, setPoint: 1530 },
    { angleDeg: 180, setPoint: 2000 },
  ]);
  if (!line.ok) throw new Error(line.problem);
  expect(line.value.slopePerDeg).toBeCloseTo(5.555_56, 5);
  expect(line.value.intercept).toBeCloseTo(1010, 9);
});
