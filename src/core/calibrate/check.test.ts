import { describe, expect, test } from "vitest";
import {
  type CheckRead,
  type Curve,
  checkSteps,
  diagnose,
  judgeCheck,
  lineError,
  type MeasuredPoint,
  pointsOf,
  readingSpreadDeg,
  reportCheck,
} from ".";

/** 10 µs per degree, 600 µs at 0°. */
const curve: Curve = { kind: "line", slopePerDeg: 10, intercept: 600 };
const angles = [20, 55, 90, 125, 160];

/** Readings from both sides, half a degree of rounding, as they would be of a servo that is off by this. */
const seen = (offDeg: (u: number, side: -1 | 1) => number): CheckRead[] =>
  [...angles.map((deg) => [deg, -1] as const), ...angles.toReversed().map((deg) => [deg, 1] as const)].map(
    ([deg, side]) => ({
      setPoint: 600 + 10 * deg,
      cameFrom: side < 0 ? "below" : "above",
      seenDeg: Math.round((deg + offDeg((deg - 90) / 70, side)) * 2) / 2,
    }),
  );
const judged = (readings: readonly CheckRead[], laidThrough: readonly MeasuredPoint[] = []) =>
  judgeCheck(curve, readings, laidThrough, 25);

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

test("the angles that the curve was laid through are not visited again: there it is always true", () => {
  const known = [-70.4, -35.2, 0, 35.2, 70.4];
  for (const { targetDeg } of checkSteps(-80, 80, 5, known))
    expect(Math.min(...known.map((deg) => Math.abs(deg - targetDeg)))).toBeGreaterThan(1.5);
});

test("mean and largest error, by hand", () => {
  const report = reportCheck(curve, [
    { setPoint: 1100, cameFrom: "below", seenDeg: 49.5 },
    { setPoint: 1500, cameFrom: "above", seenDeg: 91 },
  ]);
  expect(report).toEqual({ errorsDeg: [-0.5, 1], meanDeg: 0.75, largestDeg: 1 });
});

describe("causes are kept apart", () => {
  test("a slip of 3° alone: one offset mends it, and never new points", () => {
    const { causes, mend, sentences } = judged(seen(() => 3));
    expect(causes).toEqual(["offset"]);
    expect(mend).toMatchObject({ kind: "shift" });
    expect(mend.kind === "shift" && mend.byDeg).toBeCloseTo(3, 1);
    expect(sentences[0]).toContain("stands 3.0°");
    expect(sentences[0]).toContain("less than half a tooth of 14.4°");
  });

  test("a slip of a whole tooth says which way to put it back", () => {
    expect(judged(seen(() => -14.4)).sentences[0]).toContain("put it back by 1 tooth of 14.4° toward larger angles");
  });

  test("slip and play together are both named; it was “does not fit”", () => {
    const { causes, mend, diagnosis } = judged(seen((_, side) => 3 + side));
    expect(causes).toEqual(["offset", "play"]);
    expect(mend.kind).toBe("shift");
    expect(diagnosis?.shares.play?.deg).toBeCloseTo(2, 1);
  });

  test("play alone is no bend, and no curve mends it", () => {
    expect(judged(seen((_, side) => 1.5 * side))).toMatchObject({ causes: ["play"], mend: { kind: "live" } });
  });

  test("a wider degree and a bend are laid anew, through what was read, each place from the middle of both sides", () => {
    const readings = seen((u, side) => 4 * u + side);
    expect(judged(readings)).toMatchObject({ causes: ["slope", "play"], mend: { kind: "refit" } });
    expect(judged(seen((u) => 1.5 * (3 * u * u - 1)))).toMatchObject({ causes: ["bend"], mend: { kind: "refit" } });
    expect(pointsOf(readings)).toEqual(
      angles.map((deg) => ({ setPoint: 600 + 10 * deg, angleDeg: expect.closeTo(deg + (4 * (deg - 90)) / 70, 0.26) })),
    );
  });

  test("a scale that is off by no more than its two points could tell is said to be so", () => {
    const points = [45, 125].map((angleDeg) => ({ angleDeg, setPoint: 600 + 10 * angleDeg }));
    expect(
      judged(
        seen((u) => 0.9 * u),
        points,
      ).sentences[0],
    ).toContain("its 2 points could not tell it closer than ±");
    expect(
      judged(
        seen((u) => 5 * u),
        points,
      ).sentences[0],
    ).toContain("not as wide as it was measured");
  });

  test("what is not told apart is said besides what is: a slip, and perhaps a little play", () => {
    const few = [seen((_, side) => 5 + 0.6 * side)[1], seen((_, side) => 5 + 0.6 * side)[8]] as CheckRead[];
    const { causes, sentences } = judged(few);
    expect(causes).toEqual(["offset"]);
    expect(sentences[1]).toBe("Whether there is play in the gears besides, these readings do not tell.");
  });

  test("one slip of the hand accuses itself and no other", () => {
    const readings = seen(() => 0);
    const slipped = readings.with(3, { ...(readings[3] as CheckRead), seenDeg: 115 });
    expect(judged(slipped)).toMatchObject({ causes: [], mend: { kind: "again", reading: 3 } });
  });

  test("from one side alone an offset and play look alike: it says which reading would tell", () => {
    const below = seen(() => -2).filter(({ cameFrom }) => cameFrom === "below");
    expect(judged(below)).toMatchObject({ causes: [], mend: { kind: "more" } });
    expect(judged(below).sentences[0]).toContain("from the other side");
  });

  test("true is true to a degree; at the very angles of its points nothing can be judged", () => {
    const readings = seen(() => 0.2);
    expect(judged(readings)).toMatchObject({ mend: { kind: "accept" } });
    expect(
      judged(
        readings,
        angles.map((angleDeg) => ({ angleDeg, setPoint: 600 + 10 * angleDeg })),
      ).sentences[0],
    ).toContain("very angles");
  });

  test("two readings are too few for four causes: what they can tell is told with a wide ±", () => {
    const few = [seen(() => 3)[0], seen(() => 3)[9]] as CheckRead[];
    const share = diagnose(curve, few)?.shares;
    expect(share?.slope).toBeNull();
    expect(share?.bend).toBeNull();
    expect(share?.offset?.plusMinusDeg).toBeGreaterThan(0.5);
  });
});

describe("how far a line may be off", () => {
  test("the spread of a reading: an eye's 0.3° and its step; a sensor's 0.1°", () => {
    expect(readingSpreadDeg([10, 20.5, 33])).toBeCloseTo(Math.hypot(0.3, 0.5 / Math.sqrt(12)), 9);
    expect(readingSpreadDeg([10, 25, 90])).toBeCloseTo(Math.hypot(0.3, 5 / Math.sqrt(12)), 9);
    expect(readingSpreadDeg([10.123, 25.771, 90.006])).toBe(0.1);
  });

  test("by hand: angles −45, 0, 45 at 10 µs a degree on the line; σ 0.35 to 1.5° steps, σβ = σ/√Σ(s−s̄)²", () => {
    const error = lineError([
      { angleDeg: -45, setPoint: 1050 },
      { angleDeg: 0, setPoint: 1500 },
      { angleDeg: 45, setPoint: 1950 },
    ]);
    // They are read in steps of 5°: σ = √(0.3² + 25/12) = 1.474°, weighed as 4 readings against none left over: 1.474 × √(4/5); t for 5 is 2.57.
    const spread = Math.hypot(0.3, 5 / Math.sqrt(12)) * Math.sqrt(4 / 5);
    expect(error?.spreadDeg).toBeCloseTo(spread, 9);
    expect(error?.slopePerDeg).toBeCloseTo((2.57 * spread * 100) / Math.sqrt(2 * 450 ** 2), 1);
    expect(error?.intercept).toBeCloseTo((2.57 * spread * 10) / Math.sqrt(3), 0);
  });

  test("two points at one place make no line", () => {
    expect(
      lineError([
        { angleDeg: 1, setPoint: 1500 },
        { angleDeg: 1, setPoint: 1500 },
      ]),
    ).toBeNull();
  });
});
