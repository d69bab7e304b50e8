import {
  byId,
  type Edit,
  flipDirection,
  placeSteps,
  removePose,
  setEncoding,
  setFrameGroups,
  setFrameHz,
  setHome,
  setSpinLimit,
  setSpinUpS,
  setTravel,
} from "@core/project";
import { expect, test } from "vitest";
import { demo, done, refusal } from "./onDemo";

test("an edit gives a new project and leaves the old one alone", () => {
  const before = JSON.stringify(demo);
  const after = done(setTravel("neck-turn", -20, 20));
  expect(byId(after.joints, "neck-turn").axis).toMatchObject({ travel: { low: -20, high: 20 } });
  expect(JSON.stringify(demo)).toBe(before);
});

test("limits that leave home outside take it along; a home outside the limits is refused", () => {
  expect(byId(done(setTravel("left-lid", 0, 40)).joints, "left-lid").axis).toMatchObject({ homeDeg: 40 });
  expect(refusal(setHome("neck-turn", 90))).toContain("-80° to 80°");
  expect(refusal(setTravel("neck-turn", 5, 5))).toContain("must be below");
  expect(refusal(setTravel("vent-crank", 0, 5))).toContain("spins");
});

test("a reversed direction leaves limits, home and what must not meet where they are on the machine; twice reversed, all is as before", () => {
  for (const { id } of demo.joints) {
    const once = flipDirection(id).apply(demo);
    const twice = once.ok ? flipDirection(id).apply(once.value) : once;
    expect(twice).toEqual({ ok: true, value: demo });
  }
  const condition = (side: "above" | "below", target: number) => ({
    id: "apart",
    while: { jointId: "neck-nod", side, target },
    stays: { jointId: "beak", side: "below" as const, target: 10 },
  });
  const apart = { ...demo, conditions: [condition("above", 5)] } as const;
  const reversed = flipDirection("neck-nod").apply(apart);
  expect(reversed.ok && reversed.value.conditions).toEqual([condition("below", -5)]);
  const lid = flipDirection("left-lid").apply(done(setTravel("left-lid", 0, 40)));
  expect(lid.ok && byId(lid.value.joints, "left-lid").axis).toMatchObject({
    travel: { low: -40, high: 0 },
    homeDeg: -40,
  });
});

test("how fast a continuous servo may turn, and how gently it starts, is set within what can be; angles have none of it", () => {
  const axisOf = (edit: Edit) => byId(done(edit).joints, "vent-crank").axis;
  expect(axisOf(setSpinLimit("vent-crank", 0.4))).toMatchObject({ limit: 0.4 });
  expect(axisOf(setSpinUpS("vent-crank", 0.5))).toMatchObject({ rampPerS: 2 });
  expect(axisOf(setSpinUpS("vent-crank", 0))).toMatchObject({ rampPerS: null });
  for (const limit of [0, -0.5, 1.01, Number.NaN])
    expect(refusal(setSpinLimit("vent-crank", limit))).toContain("100 %");
  for (const seconds of [-1, 0.001, 61, Number.NaN])
    expect(refusal(setSpinUpS("vent-crank", seconds))).toContain("60 s");
  expect(refusal(setSpinLimit("neck-turn", 0.5))).toContain("has angles");
});

test("a deleted pose takes its moves with it", () => {
  const after = done(removePose("pose-blink"));
  expect(byId(after.routines, "routine-owl-wakes").steps).toHaveLength(5);
});

test("steps are put elsewhere in their order; where they stand already, nothing changes", () => {
  const orderOf = (project: typeof demo) =>
    byId(project.routines, "routine-owl-wakes")
      .steps.map((step) => step.id.at(-1))
      .join("");
  const place = (ids: string[], at: number) => done(placeSteps("routine-owl-wakes", new Set(ids), at));
  expect(orderOf(place(["wake-1"], 2))).toBe("2134567");
  expect(orderOf(place(["wake-6", "wake-2"], 0))).toBe("2613457");
  expect(orderOf(place(["wake-3"], 99))).toBe("1245673");
  expect(place(["wake-2"], 1).routines[0]).toBe(demo.routines[0]);
});

test("a board's frame rates belong to groups of channels", () => {
  expect(byId(done(setFrameHz("pebble", 1, 60)).boards, "pebble").frameHz).toEqual([50, 60, 50, 50]);
  expect(byId(done(setFrameGroups("pebble", 2)).boards, "pebble").frameHz).toEqual([50, 50]);
  expect(byId(done(setFrameGroups("fern", 99)).boards, "fern").frameHz).toHaveLength(12);
});

test("a board cannot become what it is not: zero hertz, no clock, or a bus for hobby servos", () => {
  expect(refusal(setFrameHz("fern", 0, 0))).toContain("This must be at least 1.");
  expect(
    refusal(
      setEncoding("fern", {
        kind: "timer",
        clockHz: 0,
        prescale: 8,
        counterBits: 16,
        alignment: "edge",
        output: "normal",
      }),
    ),
  ).toContain("at least 1000");
  expect(refusal(setEncoding("fern", { kind: "bus", bitsPerS: 115_200 }))).toContain("cannot be wired to Fern");
});
