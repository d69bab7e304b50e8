import {
  addCalibration,
  addCheck,
  allOf,
  byId,
  type Calibration,
  editCard,
  type Project,
  removeCalibration,
  removeCard,
  removeJoint,
  renameCard,
  setAtRest,
  setControl,
  setEndStops,
  setWindow,
  usualControl,
} from "@core/project";
import { describe, expect, test } from "vitest";
import { demo, done, refusal } from "./onDemo";

const made: Calibration = {
  kind: "line",
  id: "fresh",
  madeAt: "2026-11-23T09:00:00.000Z",
  note: "",
  points: [
    { angleDeg: 20, setPoint: 800 },
    { angleDeg: 160, setPoint: 2200 },
  ],
};
const cardOf = (project: Project, id = "card-neck-nod") => byId(project.cards, id);

describe("a card", () => {
  test("keeps what servos can have and refuses the rest in words", () => {
    const torque = (value: number) =>
      editCard("card-beak", "torque", (card) => ({ ...card, rating: { ...card.rating, torqueKgCm: value } }));
    expect(cardOf(done(torque(9.4)), "card-beak").rating.torqueKgCm).toBe(9.4);
    expect(refusal(torque(-1))).toBe("This must be at least 0.");
    expect(refusal(torque(Number.NaN))).not.toBe("it was made");
    expect(refusal(editCard("card-beak", "teeth", (card) => ({ ...card, splineTeeth: 2.5 })))).toContain(
      "whole number",
    );
    expect(refusal(renameCard("card-beak", ""))).toContain("at least one character");
  });

  test("edits of one thing undo as one, of another apart", () => {
    const edit = (what: string) => editCard("card-beak", what, (card) => card);
    expect(edit("torque").mergeKey).toBe(edit("torque").mergeKey);
    expect(edit("torque").mergeKey).not.toBe(edit("notes").mergeKey);
  });

  test("a new calibration is in force, the old ones stay, and a check that was due by hand is done with", () => {
    const due = done(editCard("card-neck-nod", "state", (card) => ({ ...card, standing: "checkDue" })));
    const after = cardOf(done(addCalibration("card-neck-nod", made), due));
    expect(after.standing).toBe("inUse");
    expect(after.calibrations.map((one) => one.id)).toEqual(["made-nod-may", "made-nod-july", "made-nod", "fresh"]);
    const back = done(removeCalibration("card-neck-nod", "fresh"), done(addCalibration("card-neck-nod", made)));
    expect(cardOf(back).calibrations.at(-1)?.id).toBe("made-nod");
  });

  test("a calibration that says nothing, or is for another kind of servo, is refused", () => {
    const twice = { ...made, points: [made.points[0], made.points[0]] } as Calibration;
    expect(refusal(addCalibration("card-neck-nod", twice))).toContain("less than 1° apart");
    expect(refusal(addCalibration("card-vent-crank", made))).toContain("does not fit a continuous servo");
  });

  test("a check is kept with its readings, whichever calibration it was of", () => {
    const check = {
      id: "check",
      madeAt: "2026-11-23T09:10:00.000Z",
      calibrationId: "made-nod",
      readings: [{ setPoint: 1500, cameFrom: "below" as const, seenDeg: 91 }],
    };
    expect(cardOf(done(addCheck("card-neck-nod", check))).checks).toEqual([check]);
    expect(refusal(addCheck("card-neck-nod", { ...check, readings: [] }))).not.toBe("it was made");
  });

  test("leaves the file with its simulated servo, once it is built in nowhere", () => {
    expect(refusal(removeCard("card-beak"))).toContain("built into Beak");
    const after = done(removeCard("card-beak"), done(removeJoint("beak")));
    expect(after.simulated.some((truth) => truth.cardId === "card-beak")).toBe(false);
  });
});

test("several edits as one step: all of them, or none", () => {
  const stops = setEndStops("card-beak", 700, 2300);
  const saved = done(allOf("Save end stops", [stops, setWindow("card-beak", 705, 2295)]));
  expect(cardOf(saved, "card-beak")).toMatchObject({ endStops: { low: 700 }, window: { low: 705, high: 2295 } });
  expect(refusal(allOf("Save end stops", [stops, setWindow("card-beak", 2000, 1000)]))).toContain("below the high end");
});

test("who gets a joint: each claimant once, times that can be", () => {
  const twice = { ...usualControl, order: ["hand", "hand", "lead"] as ("hand" | "lead")[] };
  expect(refusal(setControl("beak", twice))).toBe("This cannot be: each claimant stands once.");
  expect(refusal(setControl("beak", { ...usualControl, blendMs: -1 }))).toBe("This must be at least 0.");
  expect(byId(done(setControl("beak", { ...usualControl, takes: "order" })).joints, "beak").control.takes).toBe(
    "order",
  );
});

test("only a joint that spins can be left without a signal at rest", () => {
  expect(byId(done(setAtRest("vent-crank", "release")).joints, "vent-crank").axis).toMatchObject({ atRest: "release" });
  expect(done(setAtRest("beak", "release")).joints).toEqual(demo.joints);
});

test("stops keep how far they may be off, until somebody types one", () => {
  const found = done(setEndStops("card-neck-nod", 540, 2440, { low: 2.5, high: 3 }));
  expect(cardOf(found).endStops).toEqual({ low: 540, high: 2440, plusMinus: { low: 2.5, high: 3 } });
  expect(cardOf(done(setEndStops("card-neck-nod", 540, 2440))).endStops).toEqual({ low: 540, high: 2440 });
});
