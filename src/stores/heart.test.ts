import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { endWorker, startWorker } from "./bridge";
import { heartStore, mustAnswer, watchHeart } from "./heart";

class SilentWorker {
  static last: SilentWorker;
  onmessage: (event: { data: unknown }) => void = () => {};
  isEnded = false;
  constructor() {
    SilentWorker.last = this;
  }
  postMessage() {}
  terminate() {
    this.isEnded = true;
  }
}

let unwatch = () => {};
beforeEach(() => {
  vi.useFakeTimers();
  vi.stubGlobal("Worker", SilentWorker);
  startWorker();
  unwatch = watchHeart();
});
afterEach(() => {
  unwatch();
  endWorker();
  vi.unstubAllGlobals();
  vi.useRealTimers();
});

const heart = () => heartStore.getState().heart;
/** The worker shows the bench every so often, for so long, or says something else. */
function speak(forMs: number, kind: "snapshot" | "remote" = "snapshot"): void {
  for (let passedMs = 0; passedMs < forMs; passedMs += 200) {
    SilentWorker.last.onmessage({ data: { kind } });
    vi.advanceTimersByTime(200);
  }
}

test("a worker that is heard is alive; one that is silent for three seconds is not, until it is heard again", () => {
  speak(5000);
  expect(heart()).toBe("beats");
  vi.advanceTimersByTime(2400);
  expect(heart()).toBe("beats");
  vi.advanceTimersByTime(1200);
  expect(heart()).toBe("still");
  speak(600);
  expect(heart()).toBe("beats");
});

test("one that says what it likes, and shows no bench, is no better than a silent one; and Release all ends it", () => {
  speak(1000);
  speak(4000, "remote");
  expect(heart()).toBe("still");
  mustAnswer();
  speak(2600, "remote");
  expect([heart(), SilentWorker.last.isEnded]).toEqual(["ended", true]);
});

test("one that is still on its way has more time", () => {
  vi.advanceTimersByTime(15_000);
  expect(heart()).toBe("beats");
  vi.advanceTimersByTime(6000);
  expect(heart()).toBe("still");
});

test("Release all does not end one that is still on its way: it holds nothing yet", () => {
  mustAnswer();
  vi.advanceTimersByTime(8000);
  expect([heart(), SilentWorker.last.isEnded]).toEqual(["beats", false]);
  speak(400);
  vi.advanceTimersByTime(2000);
  expect(SilentWorker.last.isEnded).toBe(false);
});

test("a page that stood still itself draws no conclusions from it", () => {
  speak(1000);
  for (let times = 0; times < 5; times += 1) {
    vi.setSystemTime(Date.now() + 10_000);
    vi.spyOn(performance, "now").mockReturnValue(1e6 * (times + 1));
    vi.advanceTimersByTime(500);
  }
  expect(heart()).toBe("beats");
  vi.restoreAllMocks();
});

test("whoever answers to Release all lives on; who does not for two seconds is ended, and stays so", () => {
  speak(1000);
  mustAnswer();
  speak(4000);
  expect([heart(), SilentWorker.last.isEnded]).toEqual(["beats", false]);
  mustAnswer();
  vi.advanceTimersByTime(1400);
  expect(SilentWorker.last.isEnded).toBe(false);
  vi.advanceTimersByTime(1200);
  expect([heart(), SilentWorker.last.isEnded]).toEqual(["ended", true]);
  vi.advanceTimersByTime(10_000);
  expect(heart()).toBe("ended");
});
