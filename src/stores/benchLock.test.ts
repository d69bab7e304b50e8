import { afterEach, beforeEach, expect, test, vi } from "vitest";

type Tab = typeof import("./benchLock");

/** Web Locks as far as one lock goes: first come, first served, and a place in the line can be given up. */
class OneLock {
  #line: { take: () => void }[] = [];
  #isTaken = false;

  request(_name: string, { signal }: { signal: AbortSignal }, whenMine: () => Promise<void>): Promise<void> {
    return new Promise((resolve, reject) => {
      const place = {
        take: () => {
          this.#isTaken = true;
          void whenMine().then(() => {
            this.#isTaken = false;
            resolve();
            this.#line.shift()?.take();
          });
        },
      };
      signal.addEventListener("abort", () => {
        this.#line = this.#line.filter((one) => one !== place);
        reject(new Error("It gave up its place."));
      });
      if (this.#isTaken) this.#line.push(place);
      else place.take();
    });
  }
}

beforeEach(() => {
  vi.stubGlobal("navigator", { locks: new OneLock() });
  vi.useFakeTimers({ toFake: ["setTimeout", "clearTimeout"] });
});
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

/** A tab has modules of its own. */
async function openTab(): Promise<Tab> {
  vi.resetModules();
  return import("./benchLock");
}
/** Messages between tabs take their way through the event loop. */
const settle = async () => {
  for (let turn = 0; turn < 5; turn += 1) await new Promise((resolve) => setImmediate(resolve));
};
const never = () => expect.unreachable("nobody asked");

test("the first tab has the bench at once, and nobody speaks of another", async () => {
  const tab = await openTab();
  const onWait = vi.fn();
  const hold = await tab.takeBench(never, onWait);
  vi.advanceTimersByTime(5000);
  expect(onWait).not.toHaveBeenCalled();
  hold.release();
});

test("a second tab waits, says so after a second, and has the bench when the first is closed", async () => {
  const [first, second] = [await openTab(), await openTab()];
  const hold = await first.takeBench(never, never);
  const onWait = vi.fn();
  const taken = vi.fn();
  const waiting = second.takeBench(never, onWait).then((mine) => {
    taken();
    return mine;
  });
  vi.advanceTimersByTime(900);
  expect(onWait).not.toHaveBeenCalled();
  vi.advanceTimersByTime(200);
  expect(onWait).toHaveBeenCalledOnce();
  expect(taken).not.toHaveBeenCalled();
  hold.release();
  (await waiting).release();
});

test("asked for the bench, the tab that has it is told once, and hands it over when it has saved", async () => {
  const [first, second] = [await openTab(), await openTab()];
  const onAsked = vi.fn();
  const hold = await first.takeBench(onAsked, never);
  const waiting = second.takeBench(never, () => {});
  second.askForBench();
  await settle();
  expect(onAsked).toHaveBeenCalledOnce();
  hold.release();
  const mine = await waiting;
  mine.release();
});

test("a tab does not hear its own asking: it would hand the bench away to itself", async () => {
  const tab = await openTab();
  const onAsked = vi.fn();
  const hold = await tab.takeBench(onAsked, never);
  tab.askForBench();
  await settle();
  expect(onAsked).not.toHaveBeenCalled();
  hold.release();
});

test("of two tabs that wait, the one that asks goes before the one that only waits", async () => {
  const [first, second, third] = [await openTab(), await openTab(), await openTab()];
  const order: string[] = [];
  const hold = await first.takeBench(() => {}, never);
  const comes = (name: string) => (mine: { release(): void }) => {
    order.push(name);
    mine.release();
  };
  const waits = second.takeBench(never, () => {}).then(comes("second"));
  const asks = third.takeBench(never, () => {}).then(comes("third"));
  third.askForBench();
  await settle();
  hold.release();
  await Promise.all([waits, asks]);
  expect(order).toEqual(["third", "second"]);
});

test("a browser without locks has one tab at a time by itself", async () => {
  vi.stubGlobal("navigator", {});
  const tab = await openTab();
  const onWait = vi.fn();
  const hold = await tab.takeBench(never, onWait);
  vi.advanceTimersByTime(5000);
  expect(onWait).not.toHaveBeenCalled();
  expect(() => hold.release()).not.toThrow();
});
