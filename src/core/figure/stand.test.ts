import { here, type Part } from "@core/project";
import fc from "fast-check";
import { expect, test } from "vitest";
import { assembled, figureOf, turning } from "./fixtures";
import { frameOfPlace, frameSize, placeOfFrame, pointIn } from "./frames";
import { linkageJoins, rockerWay } from "./linkage";
import { partFrame, placeOf, rateOf, setTargets, stand, standing } from "./stand";

const where = (parts: readonly Part[], targets: Record<string, number>, partId: string, point = [0, 0, 0]) => {
  const now = standing(assembled(figureOf(parts)));
  setTargets(now, targets);
  stand(now);
  const out = new Float64Array(3);
  pointIn(now.frames, partFrame(placeOf(now.assembly, partId)), point, out);
  return [...out].map((value) => Math.round(value * 1e6) / 1e6 + 0);
};

const arm = [
  turning("base", null, [0, 0, 50], [0, 0, 1]),
  turning("upper", "base", [0, 0, 0], [0, 1, 0]),
  turning("fore", "upper", [0, 0, 100], [0, 1, 0]),
];

test("an arm of two links stands where the drawing says", () => {
  expect(where(arm, {}, "fore", [0, 0, 80])).toEqual([0, 0, 230]);
  // A quarter forward: both links lie along x, at the height of the shoulder.
  expect(where(arm, { "j-upper": 90 }, "fore", [0, 0, 80])).toEqual([180, 0, 50]);
  // Turned to the left by a quarter that is y; the forearm bent up again stands upright.
  expect(where(arm, { "j-base": 90, "j-upper": 90, "j-fore": -90 }, "fore", [0, 0, 80])).toEqual([0, 100, 130]);
});

test("parts that are listed before what they hang on stand in the same place", () => {
  expect(where(arm.toReversed(), { "j-upper": 90 }, "fore", [0, 0, 80])).toEqual([180, 0, 50]);
});

test("a jaw follows the other by a ratio, within its range, and a rack slides", () => {
  const jaw = turning("jaw", null, [0, 0, 0], [0, 0, 1]);
  const other: Part = {
    ...turning("other", null, [0, 0, 0], [0, 0, 1]),
    motion: {
      kind: "turn",
      axis: [0, 0, 2],
      by: { kind: "part", partId: "jaw", ratio: -1, offset: 10, range: { low: -30, high: 30 } },
    },
  };
  const rack: Part = {
    ...turning("rack", "jaw", [0, 0, 0], [1, 0, 0]),
    motion: { kind: "slide", axis: [1, 0, 0], by: { kind: "joint", jointId: "j-jaw", ratio: 0.5, offset: 2 } },
  };
  const now = standing(assembled(figureOf([other, jaw, rack])));
  const ways = (target: number) => {
    setTargets(now, { "j-jaw": target });
    stand(now);
    return ["jaw", "other", "rack"].map((id) => now.ways[placeOf(now.assembly, id)]);
  };
  expect(ways(20)).toEqual([20, -10, 12]);
  expect(rateOf(now, placeOf(now.assembly, "other"))).toBe(-1);
  expect(ways(60)).toEqual([60, -30, 32]);
  expect(rateOf(now, placeOf(now.assembly, "other"))).toBe(0);
});

test("a four-bar linkage: as a parallelogram it turns alike; as crank and rocker it follows the circles", () => {
  const bars = {
    kind: "linkage",
    partId: "crank",
    groundMm: 80,
    crankMm: 30,
    couplerMm: 80,
    rockerMm: 30,
    crankAtDeg: 60,
    isCrossed: false,
  } as const;
  for (const way of [-40, -5, 0, 10, 50])
    expect(rockerWay({ ...bars, isCrossed: true }, way) + 0 === way || rockerWay(bars, way)).toBeTruthy();
  // Independently: both ends are where their bars put them, and the coupler keeps its length.
  const uneven = { ...bars, crankMm: 20, couplerMm: 70, rockerMm: 40 };
  const rest = Math.atan2(20 * Math.sin(Math.PI / 3), 20 * Math.cos(Math.PI / 3) - 80);
  for (const isCrossed of [false, true])
    for (let way = -180; way <= 180; way += 15) {
      const linkage = { ...uneven, isCrossed };
      expect(linkageJoins(linkage, way)).toBe(true);
      const crank = ((60 + way) * Math.PI) / 180;
      // The rocker's own angle at rest, by the law of cosines.
      const [x, y] = [20 * Math.cos(crank), 20 * Math.sin(crank)];
      const far = Math.hypot(20 * Math.cos(Math.PI / 3) - 80, 20 * Math.sin(Math.PI / 3));
      const atRest = rest + (isCrossed ? 1 : -1) * Math.acos((far ** 2 + 40 ** 2 - 70 ** 2) / (2 * far * 40));
      const angle = atRest + (rockerWay(linkage, way) * Math.PI) / 180;
      expect(Math.hypot(80 + 40 * Math.cos(angle) - x, 40 * Math.sin(angle) - y)).toBeCloseTo(70, 6);
    }
  expect(linkageJoins({ ...bars, couplerMm: 20, rockerMm: 20 }, 100)).toBe(false);
  expect(rockerWay({ ...bars, couplerMm: 20, rockerMm: 20 }, 100)).toBeTypeOf("number");
});

test("a place as a frame, and back, is the same place", () => {
  const deg = (limit: number) => fc.double({ min: -limit, max: limit, noNaN: true });
  const frame = new Float64Array(frameSize);
  const again = new Float64Array(frameSize);
  fc.assert(
    fc.property(deg(180), deg(90), deg(180), (roll, pitch, yaw) => {
      frameOfPlace({ ...here, turnDeg: [roll, pitch, yaw] }, frame);
      frameOfPlace(placeOfFrame(frame), again);
      for (let at = 0; at < 9; at += 1) expect(again[at]).toBeCloseTo(frame[at] as number, 6);
    }),
  );
});

test("what hangs on nothing, or on itself, does not stand, and harms nobody", () => {
  const lost = turning("lost", "gone", [0, 0, 0], [0, 0, 1]);
  const ring = [turning("a", "b", [0, 0, 0], [0, 0, 1]), turning("b", "a", [0, 0, 0], [0, 0, 1])];
  expect(assembled(figureOf([...arm, lost, ...ring])).parts.map(({ id }) => id)).toEqual(["base", "upper", "fore"]);
});
