import fc from "fast-check";
import { describe, expect, test } from "vitest";
import {
  adviseFit,
  findSlips,
  fitCurve,
  monotonePiecewise,
  offCentreOf,
  residualsDeg,
  rms,
  toAngleDeg,
  toSetPoint,
} from ".";

const at = (angleDeg: number, setPoint: number) => ({ angleDeg, setPoint });
const curveOf = (kind: "line" | "piecewise", points: ReturnType<typeof at>[]) => {
  const fit = fitCurve(kind, points);
  if (!fit.ok) throw new Error(fit.problem);
  return fit.value;
};

describe("a monotone piecewise curve", () => {
  const bent = [at(0, 600), at(90, 1500), at(180, 2600)];

  test("goes through its points and is straight between them: 45° is 1050 µs, 135° is 2050 µs", () => {
    const curve = curveOf("piecewise", bent);
    expect(toSetPoint(curve, 45)).toBe(1050);
    expect(toSetPoint(curve, 135)).toBe(2050);
    expect(toAngleDeg(curve, 2050)).toBeCloseTo(135, 9);
  });

  test("runs on beyond its ends in the last direction", () => {
    // 1100 µs over 90° beyond 180°.
    expect(toSetPoint(curveOf("piecewise", bent), 189)).toBeCloseTo(2710, 9);
    expect(toAngleDeg(curveOf("piecewise", bent), 500)).toBeCloseTo(-10, 9);
  });

  test("averages readings that contradict its direction: 1500 and 1480 become 1490", () => {
    const curve = curveOf("piecewise", [at(0, 600), at(85, 1500), at(95, 1480), at(180, 2600)]);
    expect(toSetPoint(curve, 90)).toBe(1490);
  });

  test("turns the other way as well", () => {
    const curve = curveOf("piecewise", [at(0, 2500), at(90, 1550), at(180, 500)]);
    expect(toSetPoint(curve, 45)).toBe(2025);
    expect(toAngleDeg(curve, 2025)).toBeCloseTo(45, 9);
  });

  test("is its own inverse for any points, in any order", () => {
    const points = fc.array(fc.tuple(fc.integer({ min: 0, max: 180 }), fc.integer({ min: -40, max: 40 })), {
      minLength: 3,
      maxLength: 12,
    });
    fc.assert(
      fc.property(points, fc.double({ min: -10, max: 190, noNaN: true }), (drawn, angleDeg) => {
        const fit = monotonePiecewise(drawn.map(([deg, noise]) => at(deg, 500 + deg * 11 + noise)));
        if (!fit.ok) return;
        expect(toAngleDeg(fit.value, toSetPoint(fit.value, angleDeg))).toBeCloseTo(angleDeg, 5);
      }),
    );
  });
});

test("residuals are what the curve says less what was seen: least squares leaves −3.6°, 7.2°, −3.6° here", () => {
  // The line through (0, 1000), (90, 1560), (180, 2000) is 5.5556 µs per degree from 1020 µs.
  const points = [at(0, 1000), at(90, 1560), at(180, 2000)];
  const residuals = residualsDeg(curveOf("line", points), points);
  expect(residuals.map((value) => Number(value.toFixed(1)))).toEqual([-3.6, 7.2, -3.6]);
  expect(rms(residuals)).toBeCloseTo(5.09, 1);
});

test("which curve is worth it is said with its reason", () => {
  expect(adviseFit([at(0, 500), at(180, 2500)])?.says).toContain("can only tell a straight line");
  const straight = [0, 45, 90, 135, 180].map((deg, index) => at(deg, 500 + deg * 11 + (index % 2) * 4));
  expect(adviseFit(straight)).toMatchObject({ kind: "line", says: expect.stringContaining("Straight is enough") });
  const bent = [0, 45, 90, 135, 180].map((deg) => at(deg, 500 + deg * 11 + ((deg - 90) / 90) ** 2 * 60));
  expect(adviseFit(bent)).toMatchObject({ kind: "piecewise", says: expect.stringContaining("This servo bends") });
  expect(adviseFit([at(0, 500)])).toBeNull();
});

test("off centre by 55 µs at 11 µs per degree is 5°, a third of a tooth of 25", () => {
  const curve = curveOf("line", [at(0, 565), at(180, 2545)]);
  const off = offCentreOf(curve, 1500, 90, 25);
  expect(off.setPoint).toBeCloseTo(55, 9);
  expect(off.angleDeg).toBeCloseTo(-5, 9);
  expect(off.teeth).toBeCloseTo(-5 / 14.4, 9);
});

describe("slips", () => {
  const good = [at(-90, 500), at(-45, 1000), at(0, 1500), at(45, 2000), at(90, 2500)];

  test("a good set has none", () => expect(findSlips(good)).toEqual([]));

  test("90 typed for −90 is found, and asked about", () => {
    const slips = findSlips(good.with(0, at(90, 500)));
    expect(slips[0]).toMatchObject({ index: 0, says: expect.stringContaining("was it -90°?") });
  });

  test("read from the other end of the protractor", () => {
    const fromEnd = [at(10, 600), at(50, 1050), at(90, 1500), at(130, 1950), at(10, 2400)];
    expect(findSlips(fromEnd)[0]).toMatchObject({ index: 4, says: expect.stringContaining("other end, 170°?") });
  });

  test("a reading far off is to be measured again", () => {
    expect(findSlips(good.with(2, at(25, 1500)))).toEqual([
      { index: 2, says: expect.stringContaining("again"), isSure: true },
    ]);
  });

  test("35 typed for 45 accuses itself, and no other point", () => {
    expect(findSlips(good.with(3, at(35, 2000)))).toEqual([
      { index: 3, says: expect.stringContaining("was it 45°?"), isSure: true },
    ]);
  });

  test("two slips are both accused, and no good point with them", () => {
    const six = [at(-90, 500), at(-54, 900), at(-18, 1300), at(18, 1700), at(54, 2100), at(90, 2500)];
    const slips = findSlips(six.with(1, at(54, 900)).with(4, at(34, 2100)));
    expect(slips.map(({ index }) => index)).toEqual([1, 4]);
    expect(slips[0]?.says).toContain("was it -54°?");
  });

  test("of three points none can be accused: it is said that they disagree, and one is asked for again", () => {
    expect(findSlips([at(0, 500), at(60, 1500), at(180, 2500)])).toMatchObject([{ isSure: false }]);
    expect(findSlips(good.slice(0, 2))).toEqual([]);
  });

  test("from the other end of a servo of 270° is 270 less what was read", () => {
    const wide = [at(15, 600), at(75, 1000), at(135, 1400), at(195, 1800), at(15, 2200)];
    expect(findSlips(wide, 270)[0]?.says).toContain("other end, 255°?");
  });

  test("a servo that bends by 4 % is no slip", () => {
    const bent = [500, 900, 1300, 1700, 2100, 2500].map((setPoint) => {
      const u = (setPoint - 1500) / 1000;
      return at(90 * u * (1 + 0.04 * u), setPoint);
    });
    expect(findSlips(bent)).toEqual([]);
  });
});
