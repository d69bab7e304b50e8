import type { JointControl } from "@core/project";
import { describe, expect, test } from "vitest";
import { Hands, type Happening, type HavingKind, havingKinds, mayTake, transitions } from "./hands";
import { beginPress } from "./press";
import { pressing } from "./snapshot";

const scene = (nowMs: number, standsAt = 0, blendMs = 400) => ({ nowMs, standsAt, blendMs });
const pressOf = (nowMs: number) =>
  beginPress(
    { kind: "press", jointId: "beak", from: 10, to: 12, backTo: 8, settleMs: 50, forMs: 200 },
    (setPoint) => setPoint,
    nowMs,
  )?.press ?? null;
/** What brings a held joint into each of the hands. */
const ways: Readonly<Record<HavingKind, readonly Happening[]>> = {
  released: ["release"],
  free: [],
  hand: ["move"],
  measured: ["measure"],
  pressed: ["press"],
  routine: ["routineTakes"],
  lead: ["leadTakes"],
};
const byOf = (what: Happening) => (what === "press" ? pressOf(0) : "knob");
function handsOf(kind: HavingKind, blendMs = 0): Hands {
  const hands = new Hands();
  for (const what of ["hold", ...ways[kind]] as const) hands.happen(what, scene(0, 0, blendMs), byOf(what));
  return hands;
}
const happenings = Object.keys(transitions) as Happening[];
const cells = happenings.flatMap((what) => havingKinds.map((kind, at) => [what, kind, transitions[what][at]] as const));

test.each(cells)("%s, in the hands of %s: %s", (what, kind, cell) => {
  const hands = handsOf(kind);
  expect(hands.kind).toBe(kind);
  const wish = hands.happen(what, scene(1000, 30, 0), byOf(what));
  if (cell === "no") expect([wish, hands.kind]).toEqual([null, kind]);
  else if (cell === "-") expect([wish, hands.kind, hands.isGoingOver]).toEqual(["keep", kind, false]);
  else {
    const [to, wished, blend] = cell?.split(" ") ?? [];
    expect([hands.kind, wish]).toEqual([to, wished]);
    // With a blend of 0 only what no hand waits for goes over softly all the same.
    const isSoft = hands.blended(100, 1000) === 30;
    const isReturn = ["routineTakesBack", "leadGoesOn", "leadIsBack", "back", "heard", "remeasured"].includes(what);
    expect(isSoft).toBe(blend === "soft" && isReturn);
  }
});

describe("what the table promises, whatever stands in it", () => {
  const handsAfter = (what: Happening, kind: HavingKind) => {
    const hands = handsOf(kind);
    hands.happen(what, scene(1000), byOf(what));
    return hands;
  };

  test("only hold ends a release, and a release ends everything", () => {
    for (const what of happenings) {
      expect(handsAfter(what, "released").isHeld).toBe(what === "hold");
      for (const kind of havingKinds) if (what === "release") expect(handsAfter(what, kind).isHeld).toBe(false);
    }
  });

  test("limits rest only in a hand that asked for it", () => {
    for (const what of happenings)
      for (const kind of havingKinds) {
        const hands = handsAfter(what, kind);
        const began = what === "measure" || what === "press" || kind === "measured" || kind === "pressed";
        if (hands.isMeasured) expect([what, kind, began]).toEqual([what, kind, true]);
      }
    for (const what of ["routineTakes", "leadGoesOn", "routineTakesBack"] as const)
      for (const kind of ["measured", "pressed"] as const) expect(handsAfter(what, kind).kind).toBe(kind);
  });

  test("a lost or returning board leaves nothing that moves by itself", () => {
    for (const what of ["lost", "back"] as const)
      for (const kind of havingKinds) expect(["routine", "lead", "hand"]).not.toContain(handsAfter(what, kind).kind);
  });

  test("a press that is cut short by a loss stands back, and is over when the board answers", () => {
    const hands = handsOf("pressed");
    expect(hands.happen("lost", scene(60))).toBe("rest");
    expect(hands.press?.phase).toBe(pressing.back);
    expect([hands.happen("back", scene(90)), hands.kind]).toEqual(["rest", "free"]);
  });
});

const control = (change: Partial<JointControl> = {}): JointControl => ({
  takes: "touch",
  order: ["hand", "routine", "lead"],
  blendMs: 0,
  giveBackMs: null,
  ...change,
});
const [moves, goesOn, rests] = [
  { isTouched: true, isSteady: false },
  { isTouched: false, isSteady: true },
  { isTouched: false, isSteady: false },
];

test.each<[string, HavingKind, "routine" | "lead", typeof moves, boolean]>([
  ["a lead that moves takes it from a hand", "hand", "lead", moves, true],
  ["a lead that rests does not", "hand", "lead", rests, false],
  ["a generator takes what nobody has", "free", "lead", goesOn, true],
  ["a generator takes nothing from a hand", "hand", "lead", goesOn, false],
  ["even when its line says something new", "hand", "lead", { isTouched: true, isSteady: true }, false],
  ["a routine that is started takes it from a lead", "lead", "routine", moves, true],
  ["one lead takes it from another", "lead", "lead", moves, true],
])("by touch: %s", (_, from, claimant, how, expected) => {
  expect(mayTake(from, claimant, control(), how)).toBe(expected);
});

test.each<[string, JointControl["order"], HavingKind, "routine" | "lead", typeof moves, boolean]>([
  ["a lead takes nothing from a routine above it", ["routine", "hand", "lead"], "routine", "lead", moves, false],
  ["nor from a hand", ["routine", "hand", "lead"], "hand", "lead", moves, false],
  ["nor from one who measures", ["routine", "hand", "lead"], "measured", "lead", moves, false],
  ["a routine takes it from a lead", ["routine", "hand", "lead"], "lead", "routine", moves, true],
  ["a lead takes it from a lead by moving", ["routine", "hand", "lead"], "lead", "lead", moves, true],
  ["but not by going on", ["routine", "hand", "lead"], "lead", "lead", goesOn, false],
  ["who stands above takes it even by going on", ["lead", "routine", "hand"], "routine", "lead", goesOn, true],
])("by order: %s", (_, order, from, claimant, how, expected) => {
  expect(mayTake(from, claimant, control({ takes: "order", order: [...order] }), how)).toBe(expected);
});

test("from 10° to a wish of 30° in 400 ms: a quarter of the time is 15.6 % of the way", () => {
  const hands = handsOf("hand");
  hands.happen("leadTakes", scene(1000, 10), "knob");
  expect(hands.blended(30, 1000)).toBe(10);
  // 0.25² × (3 − 0.5) = 0.15625
  expect(hands.blended(30, 1100)).toBeCloseTo(10 + 20 * 0.15625, 9);
  expect(hands.blended(30, 1200)).toBe(20);
  expect(hands.blended(Number.NaN, 1200)).toBeNaN();
  expect(hands.blended(30, 1400)).toBe(30);
  expect(hands.isGoingOver).toBe(false);
});

test("a hand is idle after its time; a routine, and who measures, never", () => {
  const hands = handsOf("free");
  hands.happen("move", scene(1000));
  expect([hands.isIdle(500, 1500), hands.isIdle(500, 1501), hands.isIdle(null, 1e9)]).toEqual([false, true, false]);
  for (const kind of ["routine", "measured", "pressed", "free"] as const)
    expect(handsOf(kind).isIdle(500, 1e9)).toBe(false);
});
