import { demoProject } from "@core/demo";
import { byId, type Project } from "@core/project";
import { newCard } from "@core/servo";
import { expect, test } from "vitest";
import { freeChannels, isBoardFor, jointMapOf, looseCards, newAxis, travelLeft } from ".";

const demo = demoProject();

test("a new joint is careful: 45° either way at most, a third of a narrow servo, home in the middle", () => {
  expect(newAxis(newCard("positional", "a", "A"))).toMatchObject({
    zeroDeg: 90,
    travel: { low: -45, high: 45 },
    homeDeg: 0,
  });
  const narrow = { ...newCard("positional", "a", "A"), travelDeg: 90 } as ReturnType<typeof newCard>;
  expect(newAxis(narrow)).toMatchObject({ travel: { low: -30, high: 30 } });
  expect(newAxis(newCard("continuous", "c", "C"))).toMatchObject({ kind: "spin", atRest: "neutral" });
});

test("free channels: those of Pebble but 0, 1 and 2; the one that asks keeps its own; a bus begins at 1", () => {
  const pebble = byId(demo.boards, "pebble");
  expect(freeChannels(demo, pebble)).toEqual([3, 4, 5, 6, 7]);
  expect(freeChannels(demo, pebble, byId(demo.joints, "grip"))).toEqual([1, 3, 4, 5, 6, 7]);
  expect(freeChannels(demo, byId(demo.boards, "ivy")).slice(0, 2)).toEqual([4, 5]);
});

test("loose servos are built in nowhere and not retired; smart ones want a bus", () => {
  const spare = newCard("smart", "spare", "Spare");
  const old = { ...newCard("positional", "old", "Old"), standing: "retired" } as ReturnType<typeof newCard>;
  const stocked: Project = { ...demo, cards: [...demo.cards, spare, old] };
  expect(looseCards(stocked)).toEqual([spare]);
  expect(isBoardFor(byId(demo.boards, "ivy"), spare)).toBe(true);
  expect(isBoardFor(byId(demo.boards, "fern"), spare)).toBe(false);
});

test("what limits leave: 120° of 150° between found stops is 80 %, with 10° and 20° of room", () => {
  const joint = byId(demo.joints, "wrist-tilt");
  const card = byId(demo.cards, "card-wrist-tilt");
  if (joint.axis.kind !== "angle" || card.kind === "continuous") throw new Error("the wrist tilts");
  // Its line: (2234 − 762) / 140 = 10.514 µs per degree; 762 µs at 20°, which is −70° of the joint.
  const setPointAt = (jointDeg: number) => 762 + ((2234 - 762) / 140) * (jointDeg + 70);
  const axis = { ...joint.axis, travel: { low: -60, high: 60 } };
  const found = { ...card, endStops: { low: setPointAt(-70), high: setPointAt(80) } };
  const left = travelLeft(axis, found, jointMapOf({ ...joint, axis }, found));
  expect(left?.isMeasured).toBe(true);
  expect(left?.share).toBeCloseTo(0.8, 9);
  expect(left?.lowRoomDeg).toBeCloseTo(10, 9);
  expect(left?.highRoomDeg).toBeCloseTo(20, 9);
});

test("a limit past its stop shows as negative room, and counts for no more than the stop", () => {
  const joint = byId(demo.joints, "neck-turn");
  const card = byId(demo.cards, "card-neck-turn");
  if (joint.axis.kind !== "angle") throw new Error("the neck turns");
  const axis = { ...joint.axis, travel: { low: -100, high: 90 } };
  const left = travelLeft(axis, card, jointMapOf({ ...joint, axis }, card));
  expect(left?.isMeasured).toBe(false);
  expect(left?.lowRoomDeg).toBe(-10);
  expect(left?.share).toBe(1);
});
