import { EventEmitter } from "node:events";
import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { letGoAtTheEnd } from "./ending";

beforeEach(() => void vi.useFakeTimers());
afterEach(() => {
  vi.useRealTimers();
  vi.restoreAllMocks();
});

function programThat(letGo: () => Promise<unknown>) {
  const process = new EventEmitter();
  const [stdout, stderr] = [new EventEmitter(), new EventEmitter()];
  const exit = vi.fn();
  letGoAtTheEnd(letGo, 130, { on: (event, act) => process.on(event, act), exit, stdout, stderr });
  return { process, stdout, exit };
}

test.each([
  ["Ctrl C", "SIGINT", 130],
  ["a wish of the system", "SIGTERM", 130],
  ["a closed terminal", "SIGHUP", 130],
  ["a fault that nobody caught", "uncaughtException", 70],
])("%s: all is let go first, once, and then it ends", async (_, event, code) => {
  vi.spyOn(console, "error").mockImplementation(() => {});
  let done = () => {};
  const letGo = vi.fn(() => new Promise<void>((resolve) => (done = resolve)));
  const { process, stdout, exit } = programThat(letGo);
  process.emit(event, new Error("broken"));
  process.emit("SIGTERM");
  stdout.emit("error", new Error("the terminal is gone"));
  await vi.advanceTimersByTimeAsync(500);
  expect([letGo.mock.calls.length, exit.mock.calls]).toEqual([1, []]);
  done();
  await vi.advanceTimersByTimeAsync(0);
  expect(exit).toHaveBeenCalledWith(code);
});

test.each([
  ["hangs", () => new Promise<void>(() => {})],
  ["breaks", () => Promise.reject(new Error("broken"))],
])("it ends also where letting go %s", async (_, letGo) => {
  const { process, exit } = programThat(letGo);
  process.emit("SIGINT");
  await vi.advanceTimersByTimeAsync(3000);
  expect(exit).toHaveBeenCalledWith(130);
});
