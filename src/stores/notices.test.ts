import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { dismiss, noticeStore, notify } from "./notices";

beforeEach(() => {
  vi.useFakeTimers();
  noticeStore.setState([], true);
});
afterEach(() => vi.useRealTimers());
const shown = () => noticeStore.getState().map(({ sentence }) => sentence);

test("a sentence is shown for seven seconds, and can be sent away before", () => {
  notify("Saved.");
  notify("Fern does not answer.", "warning");
  expect(noticeStore.getState().map(({ tone }) => tone)).toEqual(["info", "warning"]);
  dismiss(noticeStore.getState()[0]?.id ?? -1);
  expect(shown()).toEqual(["Fern does not answer."]);
  vi.advanceTimersByTime(6900);
  expect(shown()).toHaveLength(1);
  vi.advanceTimersByTime(200);
  expect(shown()).toEqual([]);
});

test("the same sentence is not stacked upon itself, and stays its whole time anew", () => {
  notify("The limit holds it back.");
  vi.advanceTimersByTime(5000);
  notify("The limit holds it back.");
  expect(shown()).toHaveLength(1);
  vi.advanceTimersByTime(3000);
  expect(shown()).toHaveLength(1);
});

test("no more than three at once: the oldest gives way", () => {
  for (const sentence of ["one", "two", "three", "four"]) notify(sentence);
  expect(shown()).toEqual(["two", "three", "four"]);
});
