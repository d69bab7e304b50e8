import { demoProject } from "@core/demo";
import { byId } from "@core/project";
import { expect, test } from "vitest";
import { eased, type Plan, planRoutine, RoutinePlayer, roundMs } from ".";

const everyJoint = () => true;
const plan = (isLooped: boolean, moveMs = 1000, holdMs = 500): Plan => ({
  routineIndex: 0,
  isLooped,
  moves: [
    { stepId: "a", joints: [0, 1], targets: [40, -20], moveMs, holdMs, easing: "even" },
    { stepId: "b", joints: [0], targets: [0], moveMs, holdMs, easing: "even" },
  ],
});

test("a soft move is at rest at both ends and 1.875 times as fast half-way", () => {
  expect([0, 0.5, 1].map((share) => eased("soft", share))).toEqual([0, 0.5, 1]);
  expect(eased("soft", 0.25)).toBeCloseTo(0.103_515_625, 12);
  expect((eased("soft", 0.5001) - eased("soft", 0.4999)) / 0.0002).toBeCloseTo(1.875, 4);
  expect(eased("soft", 0.001)).toBeLessThan(1e-7);
});

test("half-way through a move its joints are half-way, and they wait through the hold", () => {
  const wishes = Float64Array.of(0, 0);
  const player = new RoutinePlayer(wishes);
  player.start(plan(false));
  player.advance(500, everyJoint);
  expect([...wishes]).toEqual([20, -10]);
  player.advance(700, everyJoint);
  expect([...wishes]).toEqual([40, -20]);
  expect(player.moveIndex).toBe(0);
  player.advance(800, everyJoint);
  expect([...wishes]).toEqual([20, -20]);
  player.advance(10_000, everyJoint);
  expect([...wishes]).toEqual([0, -20]);
  expect(player.plan).toBeNull();
});

test("a looped plan begins again and counts its rounds", () => {
  const player = new RoutinePlayer(Float64Array.of(0, 0));
  player.start(plan(true));
  for (let ms = 0; ms < 7000; ms += 20) player.advance(20, everyJoint);
  expect(player.rounds).toBe(2);
  expect(player.plan).not.toBeNull();
});

test("a round that lasts no time does not turn for ever", () => {
  const player = new RoutinePlayer(Float64Array.of(0, 0));
  player.start(plan(true, 0, 0));
  player.advance(20, everyJoint);
  expect(player.plan).not.toBeNull();
});

test("a joint that was taken is left alone", () => {
  const wishes = Float64Array.of(0, 5);
  const player = new RoutinePlayer(wishes);
  player.start(plan(false));
  player.advance(500, (joint) => joint === 0);
  expect([...wishes]).toEqual([20, 5]);
});

test("a changed plan goes on at the same move; a removed move ends it", () => {
  const wishes = Float64Array.of(0, 0);
  const player = new RoutinePlayer(wishes);
  player.start(plan(false));
  player.advance(500, everyJoint);
  player.replan(plan(false, 2000));
  player.advance(500, everyJoint);
  expect(wishes[0]).toBe(20);
  player.replan({ ...plan(false), moves: plan(false).moves.slice(1) });
  expect(player.plan).toBeNull();
});

test("the demo's owl takes 8.04 s to wake", () => {
  const project = demoProject();
  const routine = byId(project.routines, "routine-owl-wakes");
  expect(roundMs(routine)).toBe(8040);
  expect(planRoutine(project, routine).moves[1]?.joints).toHaveLength(2);
});
