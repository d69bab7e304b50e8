import fc from "fast-check";
import { expect, test } from "vitest";
import { markStep, type StopsAnswer, type StopsAsk, stopsAfter, windowMargin } from ".";

const ask: StopsAsk = {
  centre: 1500,
  window: { low: 500, high: 2500 },
  grid: { origin: 0, step: 1 },
  deadband: 2,
  perDeg: 10,
  coarse: 50,
};
const marked: StopsAnswer = { kind: "marked" };
const atMark: StopsAnswer = { kind: "look", isAtMark: true };

/** The answers of somebody whose horn turns between these two set points, up to the first look or the end. */
function answersTo(before: readonly StopsAnswer[], stops: { low: number; high: number }): StopsAnswer[] {
  const answers = [...before];
  for (let stage = stopsAfter(ask, answers); stage.kind === "search"; stage = stopsAfter(ask, answers)) {
    const { stand, probe } = stage.search;
    const hornAt = (setPoint: number) => Math.max(stops.low, Math.min(stops.high, setPoint));
    answers.push({ kind: "step", probe, seen: Math.abs(hornAt(probe) - hornAt(stand)) > 3 ? "moved" : "stopped" });
  }
  return answers;
}

test("marked, up, looked at, down, looked at: both stops; the mark is always come to from below", () => {
  const stops = { low: 612, high: 2317 };
  expect(stopsAfter(ask, [])).toEqual({ kind: "mark" });
  expect(markStep(ask)).toEqual({ stand: 1400, probe: 1500 });
  const up = answersTo([marked], stops);
  expect(stopsAfter(ask, up)).toEqual({ kind: "look" });
  const down = answersTo([...up, atMark], stops);
  expect(stopsAfter(ask, down)).toEqual({ kind: "look" });
  const found = stopsAfter(ask, [...down, atMark]);
  if (found.kind !== "found") throw new Error(found.kind);
  expect(Math.abs(found.high.setPoint - stops.high)).toBeLessThanOrEqual(found.high.plusMinus);
  expect(Math.abs(found.low.setPoint - stops.low)).toBeLessThanOrEqual(found.low.plusMinus);
  // Whatever was answered last is taken back by leaving it out.
  expect(stopsAfter(ask, down.slice(0, -1))).toMatchObject({ kind: "search", search: { way: -1 } });
  expect(stopsAfter(ask, up)).toEqual({ kind: "look" });
});

test("a horn beside its mark after either search: nothing was found", () => {
  const stops = { low: 612, high: 2317 };
  const up = answersTo([marked], stops);
  const beside: StopsAnswer = { kind: "look", isAtMark: false };
  expect(stopsAfter(ask, [...up, beside])).toEqual({ kind: "slipped" });
  const down = answersTo([...up, atMark], stops);
  expect(stopsAfter(ask, [...down, beside])).toEqual({ kind: "slipped" });
});

test("a side with less room than the servo was seen to need is refused in words, not searched", () => {
  const narrow = { ...ask, window: { low: 1498, high: 2500 } };
  const stops = { low: 0, high: 2317 };
  const up = answersTo([marked], stops);
  expect(stopsAfter(narrow, [...up, atMark])).toMatchObject({ kind: "refused" });
  expect(stopsAfter({ ...ask, window: { low: 500, high: 1502 } }, [marked])).toMatchObject({ kind: "refused" });
});

test("the window keeps 1.5° inside what was seen to be free, or the board's step where that is wider", () => {
  expect(windowMargin(2, { origin: 0, step: 1 }, -11)).toBe(16.5);
  expect(windowMargin(2, { origin: 0, step: 78.125 }, 11)).toBe(78.125);
  expect(windowMargin(20, { origin: 0, step: 1 }, 11)).toBe(20);
});

test("any answers in any order make a stage, and what is found was looked at twice", () => {
  const answer = fc.oneof(
    fc.constant(marked),
    fc.boolean().map((isAtMark): StopsAnswer => ({ kind: "look", isAtMark })),
    fc.record({
      kind: fc.constant("step" as const),
      probe: fc.double({ min: 500, max: 2500, noNaN: true }),
      seen: fc.constantFrom<"moved" | "stopped">("moved", "stopped"),
    }),
  );
  fc.assert(
    fc.property(fc.array(answer, { maxLength: 60 }), (answers) => {
      const stage = stopsAfter(ask, answers);
      if (stage.kind === "found") expect(answers.filter((one) => one.kind === "look").length).toBeGreaterThan(1);
      if (stage.kind === "search") expect(stage.search.probe).toBeLessThanOrEqual(2500);
    }),
  );
});
