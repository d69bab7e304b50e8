import { demoProject } from "@core/demo";
import { byId } from "@core/project";
import { jointMapOf } from "@core/rig";
import { signalMakerOf } from "@core/signal";
import { expect, test } from "vitest";
import { gateLimits, lastStage, openLimits } from ".";

const project = demoProject();
const joint = byId(project.joints, "neck-turn");
const card = byId(project.cards, joint.cardId);
/** The neck: 1000–2000 µs for 180°, ±80°, 240 °/s, in counts of 2.45 µs: 0° is 612, a count is 0.441°. In a frame of 20 ms it may go 4.8°, that is ten counts, and one for rounding. */
const limits = gateLimits(jointMapOf(joint, card), signalMakerOf(byId(project.boards, "fern")), card.window);
const through = (asked: number, lowest: number, highest = lowest, isHeld = true, of = limits, heard = lowest) => {
  const counts = Float64Array.of(asked);
  const mayStand = { heard: [heard], lowest: [lowest], highest: [highest] };
  const changes = lastStage([{ channel: 0, limits: of, isHeld }], counts, mayStand, 20);
  return { count: counts[0], changes };
};

test("what lies within one frame's way passes as it is", () => {
  expect(through(622, 612)).toEqual({ count: 622, changes: 0 });
  expect(through(602, 612)).toEqual({ count: 602, changes: 0 });
});

test("further than a frame's way is cut to it: from 612 to ten or eleven counts on", () => {
  const { count, changes } = through(700, 612);
  expect(changes).toBe(1);
  expect(count).toBeGreaterThanOrEqual(622);
  expect(count).toBeLessThanOrEqual(623);
});

test("of two frames that may be in force, it stays within the way from both", () => {
  // From 612 up to 623, from 620 no further down than 609: 623 is out of neither's reach, 628 is out of the first's.
  expect(through(628, 612, 620).count).toBeLessThanOrEqual(623);
  expect(through(605, 612, 620).count).toBeGreaterThanOrEqual(609);
});

test("a released joint gets nothing, and nor does a number that means something outside the window", () => {
  expect(through(612, 612, 612, false).count).toBeNaN();
  // 2500 µs are 1020.4 counts.
  expect(through(1021, Number.NaN).count).toBeNaN();
  expect(through(612.5, Number.NaN).count).toBeNaN();
  expect(through(Number.NaN, 612)).toEqual({ count: Number.NaN, changes: 0 });
});

test("inside its travel a joint stays there: 80° are 1944.4 µs, 793 counts and no more; while it is calibrated the window alone holds", () => {
  expect(through(793, 792).count).toBe(793);
  expect(through(794, 793).count).toBe(793);
  expect(through(794, Number.NaN).count).toBeNaN();
  expect(through(794, 793, 793, true, openLimits(limits)).count).toBe(794);
});

test("a joint that stands outside its travel comes in; one that was only told to stand there, by frames that may be lost, does not begin there", () => {
  expect(through(800, 805).count).toBe(800);
  expect(through(800, 805, 805, true, limits, Number.NaN).count).toBeNaN();
  expect(through(790, 792, 792, true, limits, Number.NaN).count).toBe(790);
});
