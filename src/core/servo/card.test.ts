import { toAngleDeg } from "@core/calibrate";
import { demoProject } from "@core/demo";
import { byId, type SpinCalibration } from "@core/project";
import { pulseUsOfSpin, spinOf } from "@core/signal";
import { expect, test } from "vitest";
import { cardState, curveOf, feedbackCurveOf, knownPlayDeg, spinCurveFrom, type TravellingCard } from ".";

const { cards } = demoProject();
const nod = byId(cards, "card-neck-nod");
const day = (text: string) => Date.parse(`${text}T12:00:00Z`);

test("a servo is new, calibrated, due for a check by age or by hand, or retired", () => {
  expect(cardState(byId(cards, "card-neck-turn"), day("2026-11-01")).kind).toBe("new");
  expect(cardState(nod, day("2026-11-01"))).toEqual({ kind: "calibrated", madeAt: "2026-10-04T19:20:00.000Z" });
  expect(cardState({ ...nod, checkEveryDays: 20 }, day("2026-11-01"))).toMatchObject({
    kind: "checkDue",
    why: "27 days since it was last looked at",
  });
  const check = { id: "c", madeAt: "2026-10-30T10:00:00.000Z", calibrationId: null, readings: [] };
  expect(cardState({ ...nod, checkEveryDays: 20, checks: [check] }, day("2026-11-01")).kind).toBe("calibrated");
  expect(cardState({ ...nod, standing: "checkDue" }, day("2026-11-01")).kind).toBe("checkDue");
  expect(cardState({ ...nod, standing: "retired" }, day("2026-11-01")).kind).toBe("retired");
});

test("a register is believed by its sheet; a wire says nothing until two readings were taken", () => {
  const elbow = byId(cards, "card-elbow") as TravellingCard;
  expect(feedbackCurveOf(elbow)?.slopePerDeg).toBeCloseTo(62.5, 9);
  const grip = byId(cards, "card-grip") as TravellingCard;
  expect(feedbackCurveOf(grip)).toBeNull();
  const points = [
    { reading: 205, angleDeg: 20 },
    { reading: 745, angleDeg: 140 },
  ];
  // 540 counts over 120°
  expect(feedbackCurveOf({ ...grip, feedback: { unit: "counts", points } })?.slopePerDeg).toBe(4.5);
  expect(feedbackCurveOf(nod as TravellingCard)).toBeNull();
});

const made: Pick<SpinCalibration, "back" | "neutral" | "forward" | "rest" | "speeds"> = {
  back: 1200,
  neutral: 1522,
  forward: 1800,
  rest: { low: 1513, high: 1531 },
  speeds: [
    { setPoint: 1400, degPerS: -150 },
    { setPoint: 1250, degPerS: -300 },
    { setPoint: 1200, degPerS: -302 },
    { setPoint: 1650, degPerS: 160 },
    { setPoint: 1800, degPerS: 280 },
  ],
};

test("with counted speeds, equal spins are equal speeds: 1 is 280 °/s both ways", () => {
  const curve = spinCurveFrom(made);
  expect(curve.fullDegPerS).toBe(280);
  expect(pulseUsOfSpin(curve, 1)).toBe(1800);
  // 280 of 300 °/s: 130/150 of the way from 1400 to 1250 µs
  expect(pulseUsOfSpin(curve, -1)).toBeCloseTo(1400 - 150 * (130 / 150), 9);
  expect(pulseUsOfSpin(curve, 160 / 280)).toBe(1650);
  expect(pulseUsOfSpin(curve, 0)).toBe(1522);
});

test("the least spin steps over the edge of its rest, and every pulse still has one spin", () => {
  const curve = spinCurveFrom({ ...made, speeds: [] });
  expect(pulseUsOfSpin(curve, 0.01)).toBeGreaterThan(1531);
  expect(pulseUsOfSpin(curve, -0.01)).toBeLessThan(1513);
  for (let pulseUs = 1200; pulseUs <= 1800; pulseUs += 7)
    expect(pulseUsOfSpin(curve, spinOf(curve, pulseUs))).toBeCloseTo(pulseUs, 6);
});

test("a file with speeds that make no sense still gives a curve that can be turned round", () => {
  const speeds = [
    { setPoint: 1600, degPerS: -100 },
    { setPoint: 1400, degPerS: 100 },
    { setPoint: 1522, degPerS: 5 },
  ];
  const curve = spinCurveFrom({ ...made, rest: { low: 1600, high: 1700 }, speeds });
  for (const spin of [-1, -0.3, 0.2, 1]) expect(spinOf(curve, pulseUsOfSpin(curve, spin))).toBeCloseTo(spin, 6);
});

test("the play that a card knows is that of its newest check from both sides", () => {
  const turn = byId(cards, "card-neck-turn") as TravellingCard;
  const curve = curveOf(turn);
  const checkOf = (id: string, playDeg: number, sides: readonly ("below" | "above")[]) => ({
    id,
    madeAt: `2026-10-0${id}T10:00:00.000Z`,
    calibrationId: null,
    readings: [800, 1100, 1500, 1900, 2200].flatMap((setPoint) =>
      sides.map((cameFrom) => ({
        setPoint,
        cameFrom,
        seenDeg: toAngleDeg(curve, setPoint) + ((cameFrom === "below" ? -1 : 1) * playDeg) / 2,
      })),
    ),
  });
  expect(knownPlayDeg(turn)).toBeNull();
  const older = checkOf("1", 3, ["below", "above"]);
  expect(knownPlayDeg({ ...turn, checks: [older] })).toBeCloseTo(3, 6);
  expect(knownPlayDeg({ ...turn, checks: [older, checkOf("2", 3, ["below"])] })).toBeCloseTo(3, 6);
  expect(knownPlayDeg({ ...turn, checks: [checkOf("3", 0, ["below", "above"]), older] })).toBe(0);
});
