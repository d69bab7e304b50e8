import { beforeEach, expect, test } from "vitest";
import { chooseStep, gridMs, openRoutine, scoreView, snapped } from "./scoreView";

const order = ["a", "b", "c", "d", "e"];
const chosen = () => scoreView.getState().stepIds;

beforeEach(() => openRoutine("r"));

test("steps are chosen alone, added and taken away, and as a range from the last one, either way", () => {
  chooseStep("b", "alone", order);
  chooseStep("d", "toggle", order);
  expect(chosen()).toEqual(["b", "d"]);
  chooseStep("b", "toggle", order);
  expect(chosen()).toEqual(["d"]);
  chooseStep("b", "range", order);
  expect(chosen()).toEqual(["b", "c", "d"]);
  chooseStep("e", "alone", order);
  expect(chosen()).toEqual(["e"]);
});

test("what is chosen of one kind lets go of the others; another routine begins afresh", () => {
  scoreView.setState({ keys: [{ jointId: "beak", atMs: 5 }], clipIds: ["c"], cursorMs: 900 });
  chooseStep("a", "alone", order);
  expect(scoreView.getState()).toMatchObject({ keys: [], clipIds: [], cursorMs: 900 });
  openRoutine("other");
  expect(scoreView.getState()).toMatchObject({ routineId: "other", stepIds: [], cursorMs: 0, window: null });
});

test("the grid is as fine as can be seen, and a moment snaps to it unless it is free or switched off", () => {
  expect([0.2, 1, 10, 100, 5000].map(gridMs)).toEqual([10, 10, 100, 1000, 10_000]);
  expect(snapped(1234, 10, false)).toBe(1200);
  expect(snapped(1234.4, 10, true)).toBe(1234);
  expect(snapped(-50, 10, false)).toBe(0);
  scoreView.setState({ isSnapping: false });
  expect(snapped(1234.4, 10, false)).toBe(1234);
  scoreView.setState({ isSnapping: true });
});
