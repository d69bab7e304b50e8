import { feedFrom } from "@core/project";
import { expect, test } from "vitest";
import { feedingBetween, type Thing } from ".";
import { adapter, bench, joint, rail, supply, wire } from "./fixtures";

const regulator = {
  ...adapter("reg", 5, 3000),
  gives: { kind: "regulator" as const, volts: 5, works: "switching" as const, efficiency: 0.9, headroomVolts: 1 },
};
const supplies = [adapter("a", 12, 3000), regulator];
const thing = (kind: Thing["kind"], id: string): Thing => ({ kind, id });

test.each([
  ["a servo on a rail", thing("joint", "j0"), thing("rail", "r"), thing("joint", "j0"), thing("rail", "r")],
  ["a rail on a servo", thing("rail", "r"), thing("joint", "j0"), thing("joint", "j0"), thing("rail", "r")],
  ["an adapter on a rail", thing("supply", "a"), thing("rail", "r"), thing("rail", "r"), thing("supply", "a")],
  ["a rail on an adapter", thing("rail", "r"), thing("supply", "a"), thing("rail", "r"), thing("supply", "a")],
  [
    "a regulator on an adapter",
    thing("supply", "reg"),
    thing("supply", "a"),
    thing("supply", "reg"),
    thing("supply", "a"),
  ],
  ["a board on a regulator", thing("board", "b"), thing("supply", "reg"), thing("board", "b"), thing("supply", "reg")],
])("%s: the one that can feeds the other", (_, put, onto, to, from) => {
  expect(feedingBetween(put, onto, supplies)).toEqual({ to, from });
});

test("two adapters, a servo on a servo, and a thing on itself mean nothing", () => {
  expect(feedingBetween(thing("supply", "a"), thing("supply", "b"), [...supplies, adapter("b", 5, 1)])).toBeNull();
  expect(feedingBetween(thing("joint", "j0"), thing("joint", "j1"), supplies)).toBeNull();
  expect(feedingBetween(thing("rail", "r"), thing("rail", "r"), supplies)).toBeNull();
});

test("fed from elsewhere it keeps its wire; fed for the first time it gets a usual one; from nothing it has none", () => {
  const project = bench(2, {
    supplies: [adapter("s", 5, 3000)],
    rails: [{ id: "r", label: "Rail" }],
    runs: [wire("one", supply("s"), joint("j0"), 0.2)],
  });
  const after = feedFrom(joint("j0"), rail("r"), "new").apply(project);
  expect(after.ok && after.value.runs).toEqual([{ ...project.runs[0], from: rail("r") }]);
  const first = feedFrom(joint("j1"), supply("s"), "new").apply(project);
  expect(first.ok && first.value.runs.at(-1)).toMatchObject({ id: "new", from: supply("s"), to: joint("j1") });
  // Somebody removed the rail while a servo was on its way to it: the servo keeps the wire that it has.
  const gone = feedFrom(joint("j0"), rail("gone"), "new").apply(project);
  expect(gone.ok ? "" : gone.problem).toContain("is gone");
  const none = feedFrom(joint("j0"), null, "new").apply(project);
  expect(none.ok && none.value.runs).toEqual([]);
});
