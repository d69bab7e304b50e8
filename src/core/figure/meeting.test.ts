import { type Figure, here, type Part, type Thing } from "@core/project";
import type { Shape } from "@core/shapes";
import { expect, test } from "vitest";
import { assembled, figureOf, turning } from "./fixtures";
import { Meetings, meetingWords } from "./meeting";
import { setTargets, stand, standing } from "./stand";

const link: Shape = { kind: "box", sizeMm: [10, 10, 90] };
const bodied = (part: Part, shape: Shape = link): Part => ({
  ...part,
  bodies: [{ place: { ...here, atMm: [0, 0, 50] }, shape, color: "#888888", isSolid: true }],
});
const arm = figureOf([
  bodied(turning("base", null, [0, 0, 0], [0, 0, 1])),
  bodied(turning("upper", "base", [0, 0, 100], [0, 1, 0])),
  bodied(turning("fore", "upper", [0, 0, 100], [0, 1, 0])),
  bodied(turning("hand", "fore", [0, 0, 100], [0, 1, 0])),
]);
const pot: Thing = {
  id: "pot",
  label: "Pot",
  kind: "solid",
  place: { ...here, atMm: [150, 0, 40] },
  shape: { kind: "rod", radiusMm: 30, lengthMm: 80 },
  color: "#aa5533",
};

function met(targets: Record<string, number>, things: readonly Thing[] = [], figure: Figure = arm) {
  const assembly = assembled(figure);
  const now = standing(assembly);
  setTargets(now, targets);
  stand(now);
  const project = { things, meshes: [], figures: [figure] };
  return new Meetings(project, assembly).all(now).map((meeting) => meetingWords(project, meeting));
}

test("an arm that stands free meets nothing; its neighbours touch by design", () => {
  expect(met({})).toEqual([]);
});

test("bent right round it meets itself, bent down the table, and what stands there the pot", () => {
  expect(met({ "j-fore": 120, "j-hand": 120 })).toContain("upper meets hand");
  expect(met({ "j-upper": 120, "j-fore": 50 })).toContain("hand meets the table");
  expect(met({ "j-upper": 100, "j-fore": 10 }, [pot])).toContain("fore meets Pot");
  expect(met({ "j-base": 90, "j-upper": 100, "j-fore": 10 }, [pot])).not.toContain("fore meets Pot");
  expect(met({ "j-upper": 100, "j-fore": 10 }, [{ ...pot, kind: "zone" }])).toContain("fore enters Pot");
  expect(met({ "j-upper": 100, "j-fore": 10 }, [{ ...pot, kind: "seen" }])).not.toContain("fore meets Pot");
});

test("pairs that may touch, and what is only painted, are left out", () => {
  const folded = { "j-fore": 120, "j-hand": 120 };
  expect(met(folded, [], { ...arm, mayTouch: [["hand", "upper"]] })).not.toContain("upper meets hand");
  const painted = {
    ...arm,
    parts: arm.parts.map((part) => ({ ...part, bodies: part.bodies.map((body) => ({ ...body, isSolid: false })) })),
  };
  expect(met(folded, [], painted)).toEqual([]);
});

test("what comes near is told before it meets", () => {
  const assembly = assembled(arm);
  const now = standing(assembly);
  const meetings = new Meetings({ things: [{ ...pot, place: { ...here, atMm: [37, 0, 40] } }], meshes: [] }, assembly);
  stand(now);
  // The base's own face is at 5, the pot's at 7. It stands on what turns, so it is asked.
  expect(meetings.look(now, 10)).toBeCloseTo(2, 6);
  expect(meetings.look(now, 1)).toBe(1);
});
