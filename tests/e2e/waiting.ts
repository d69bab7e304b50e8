import { existsSync, readFileSync } from "node:fs";

/**
 * Waiting for what comes, not for a time: a busy machine takes longer, a quiet one does not dawdle.
 * `until` waits for something to be so, `still` for something to stand, `stays` holds that nothing happens for as long as it would need to.
 */

/** What can be looked at twice and held against itself. */
type Seen = string | number | boolean | undefined;

/** How long anything is waited for: only what never comes is a fault. */
const patienceMs = 60_000;
const lookEveryMs = 25;

/** For what lasts by its nature: how long a tab is hidden, how long a hand rests between two turns. */
export const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

/** Reads again and again until `isSo` holds of what was read, and gives that. @throws with what was read last, when it never came */
export async function until<T extends Seen>(read: () => T | Promise<T>, isSo: (seen: T) => boolean): Promise<T> {
  const endMs = performance.now() + patienceMs;
  for (;;) {
    const seen = await read();
    if (isSo(seen)) return seen;
    if (performance.now() > endMs) throw new Error(`It never came; last seen: ${String(seen)}`);
    await pause(lookEveryMs);
  }
}

/** Waits until what is read has been the same for `forMs`, and gives it. @throws when it never stands */
export async function still<T extends Seen>(read: () => T | Promise<T>, forMs: number): Promise<T> {
  let sinceMs = performance.now();
  let before: T = await read();
  await until(read, (seen) => {
    if (seen !== before) sinceMs = performance.now();
    before = seen;
    return performance.now() - sinceMs >= forMs;
  });
  return before;
}

/** Waits until a number has kept within `by` of itself for `forMs`, and gives it: what trembles rests as well, wherever that is. */
export function rests(read: () => Promise<number>, by: number, forMs: number): Promise<number> {
  let stood = Number.NaN;
  return still(async () => {
    const now = await read();
    if (!(Math.abs(now - stood) <= by)) stood = now;
    return stood;
  }, forMs);
}

/** Looks for `forMs`, and holds that what is read is the same all along; gives it. @throws with both, when it changed */
export async function stays<T extends Seen>(read: () => T | Promise<T>, forMs: number): Promise<T> {
  const before: T = await read();
  for (const endMs = performance.now() + forMs; performance.now() < endMs; ) {
    await pause(lookEveryMs);
    const now = await read();
    if (now !== before) throw new Error(`It did not stay ${String(before)}; it is ${String(now)}.`);
  }
  return before;
}

/** Does it again, every `everyMs`, until something is so: as somebody does whose key or button was not taken. */
export async function insist(
  act: (times: number) => Promise<unknown>,
  isSo: () => boolean | Promise<boolean | null | undefined>,
  everyMs: number,
): Promise<void> {
  const endMs = performance.now() + patienceMs;
  for (let times = 0; ; times += 1) {
    await act(times);
    for (const againMs = performance.now() + everyMs; performance.now() < againMs; await pause(lookEveryMs))
      if (await isSo()) return;
    if (performance.now() > endMs) throw new Error("It was never taken.");
  }
}

/** The same at a person's pace, `times` over: a hand that turns a knob, one step after the other. */
export async function paced(times: number, everyMs: number, act: (turn: number) => Promise<unknown>): Promise<void> {
  for (let turn = 0; turn < times; turn += 1) {
    await act(turn);
    await pause(everyMs);
  }
}

/** What a browser saved, once it is there whole. */
export async function fileSaved(path: string): Promise<string> {
  await until(
    () => existsSync(path),
    (isThere) => isThere,
  );
  return still(() => readFileSync(path, "utf8"), 100);
}
