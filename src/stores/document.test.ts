import { demoProject } from "@core/demo";
import { byId, renamePose, setHome, setTravel } from "@core/project";
import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { documentStore, dragging, edit, editForField, layOut, newId, projectNow, redo, undo } from "./document";
import { noticeStore } from "./notices";

beforeEach(() => {
  vi.useFakeTimers({ now: 1_000_000 });
  noticeStore.setState([], true);
  layOut(demoProject());
});
afterEach(() => vi.useRealTimers());

const travel = () => {
  const { axis } = byId(projectNow().joints, "neck-turn");
  return axis.kind === "angle" ? [axis.travel.low, axis.travel.high] : [];
};
const past = () => documentStore.temporal.getState().pastStates.length;

test("an edit changes the document, undo takes it back, redo makes it again", () => {
  edit(setTravel("neck-turn", -20, 20));
  expect(travel()).toEqual([-20, 20]);
  undo();
  expect(travel()).toEqual([-80, 80]);
  redo();
  expect(travel()).toEqual([-20, 20]);
});

test("what undo would take back has a name", () => {
  edit(renamePose("pose-blink", "Wink"));
  expect(documentStore.getState().editName).toBe("Rename pose");
});

test("a limit that is dragged is one step back, not forty", () => {
  for (let deg = 79; deg > 40; deg -= 1) {
    edit(setTravel("neck-turn", -80, deg));
    vi.advanceTimersByTime(30);
  }
  expect(past()).toBe(1);
  undo();
  expect(travel()).toEqual([-80, 80]);
});

test("the same limit set again after a while is a step of its own, and so is another one in between", () => {
  edit(setTravel("neck-turn", -80, 70));
  vi.advanceTimersByTime(1500);
  edit(setTravel("neck-turn", -80, 60));
  edit(setHome("neck-turn", 5));
  edit(setTravel("neck-turn", -80, 50));
  expect(past()).toBe(4);
});

test("a merged edit after an undo does not bring back what was undone", () => {
  edit(setTravel("neck-turn", -80, 70));
  undo();
  edit(setTravel("neck-turn", -80, 60));
  expect(travel()).toEqual([-80, 60]);
  undo();
  expect(travel()).toEqual([-80, 80]);
  expect(past()).toBe(0);
});

test("a refused edit changes nothing, leaves no trace in the past, and is told", () => {
  const before = projectNow();
  expect(edit(setHome("neck-turn", 500))).toBe(false);
  expect(projectNow()).toBe(before);
  expect(past()).toBe(0);
  expect(noticeStore.getState()[0]?.sentence).toContain("within the travel limits");
  expect(editForField(setHome("neck-turn", 500))).toContain("within the travel limits");
  expect(noticeStore.getState()).toHaveLength(1);
});

test("another project on the bench has no past of its own yet", () => {
  edit(setTravel("neck-turn", -20, 20));
  layOut({ ...demoProject(), name: "Other" });
  expect(past()).toBe(0);
  undo();
  expect(projectNow().name).toBe("Other");
});

test("new ids do not repeat", () => {
  expect(new Set(Array.from({ length: 1000 }, newId)).size).toBe(1000);
});

test("a drag that rests in the middle is one step back as well, and the next drag another", () => {
  dragging(true);
  edit(setTravel("neck-turn", -80, 60));
  vi.advanceTimersByTime(5000);
  edit(setTravel("neck-turn", -80, 50));
  dragging(false);
  expect(past()).toBe(1);
  vi.advanceTimersByTime(5000);
  dragging(true);
  edit(setTravel("neck-turn", -80, 40));
  dragging(false);
  expect(past()).toBe(2);
});
