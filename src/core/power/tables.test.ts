import { expect, test } from "vitest";
import { areaOfGauge, blowsWithinS, gaugeOfArea, mayCarryA, pairOhm, restingVolts, warmerByC } from ".";

test("copper: 1 m of 0.5 mm², there and back, is 69 mΩ; at 60 °C a sixth more", () => {
  expect(pairOhm(1000, 0.5)).toBeCloseTo(2 / 58 / 0.5, 9);
  expect(pairOhm(1000, 0.5, 60) / pairOhm(1000, 0.5)).toBeCloseTo(1.1572, 4);
});

test("gauge numbers: 26 is 0.129 mm², 20 is 0.518, 12 is 3.31; and back", () => {
  expect(areaOfGauge(26)).toBeCloseTo(0.1288, 4);
  expect(areaOfGauge(20)).toBeCloseTo(0.5177, 3);
  expect(areaOfGauge(12)).toBeCloseTo(3.309, 2);
  for (let gauge = 4; gauge <= 36; gauge += 1) expect(gaugeOfArea(areaOfGauge(gauge))).toBe(gauge);
});

test("a wire in a bundle: 0.13 mm² may carry some 3 A, 0.75 mm² some 8, and twice the area not twice as much", () => {
  expect(mayCarryA(0.13)).toBeGreaterThan(2);
  expect(mayCarryA(0.13)).toBeLessThan(3.5);
  expect(mayCarryA(0.75)).toBeGreaterThan(6.5);
  expect(mayCarryA(0.75)).toBeLessThan(10);
  expect(mayCarryA(1.5) / mayCarryA(0.75)).toBeLessThan(2);
  expect(warmerByC(100, 0.13)).toBe(Number.POSITIVE_INFINITY);
  for (const area of [0.08, 0.5, 4]) expect(warmerByC(mayCarryA(area), area)).toBeCloseTo(30, 3);
});

test("a fuse bears its rating for ever; twice of it for seconds; more for less", () => {
  const fuse = { ratedMa: 2000, blows: "fast" } as const;
  expect(blowsWithinS(fuse, 2).fromS).toBe(Number.POSITIVE_INFINITY);
  expect(blowsWithinS(fuse, 4)).toEqual({ fromS: 0.3, toS: 30 });
  expect(blowsWithinS({ ...fuse, blows: "slow" }, 4).fromS).toBeGreaterThan(blowsWithinS(fuse, 4).fromS);
  let last = Number.POSITIVE_INFINITY;
  for (let amps = 2.3; amps < 60; amps += 0.1) {
    const { fromS, toS } = blowsWithinS(fuse, amps);
    expect(fromS).toBeLessThanOrEqual(last);
    expect(toS).toBeGreaterThanOrEqual(fromS);
    last = fromS;
  }
});

test("two lithium cells: 8.4 V full, 7.6 half, 6.6 empty; never more or less", () => {
  const pack = { kind: "battery", chemistry: "lithium", cells: 2, capacityMah: 2000, cellMilliohm: 30 } as const;
  expect([1, 0.5, 0, 2, -1].map((charge) => restingVolts(pack, charge))).toEqual([8.4, 7.6, 6.6, 8.4, 6.6]);
});
