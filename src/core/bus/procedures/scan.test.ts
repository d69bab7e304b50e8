import { expect, test } from "vitest";
import { kestrel } from "../families/kestrel";
import type { Packet } from "../packets/packet";
import type { WireAnswer } from "../wire/wire";
import { silence } from "./procedure";
import { scan } from "./scan";

/** Runs a scan of ids 0 to 9 against devices that answer from so many calls on, or before that too late. Gives who was found, and how many calls it took. */
function scanned(answersFrom: Readonly<Record<number, number>>, isLateBefore = false) {
  const run = scan({ layouts: [kestrel], lowestId: 0, highestId: 9, bitsPerS: [115_200] });
  const called = new Map<number, number>();
  let answer: WireAnswer = silence;
  let late: number[] = [];
  for (let sent = 0; ; ) {
    const { value, done } = run.next(answer);
    if (done) return { ids: value.map(({ id }) => id), sent };
    answer = silence;
    if (value.kind !== "send") continue;
    sent += 1;
    const [id = -1] = value.from;
    answer = { ...silence, late };
    late = isLateBefore && id in answersFrom ? [id] : [];
    const times = (called.get(id) ?? 0) + 1;
    called.set(id, times);
    if (times < (answersFrom[id] ?? Number.POSITIVE_INFINITY)) continue;
    const packet: Packet = {
      direction: "reply",
      id,
      operation: 0,
      asksReply: false,
      error: 0,
      parameters: new Uint8Array(value.replyBytes ?? 0),
    };
    answer = { ...answer, replies: [{ packet, bytes: new Uint8Array(), atUs: 0 }] };
  }
}

test("a device whose first replies came too late is found when those that kept silent are called once more", () => {
  expect(scanned({ 2: 1, 5: 3 }).ids).toEqual([2, 5]);
});

test("whoever is heard too late again and again is called until it is heard in time, also where nobody else is there", () => {
  expect(scanned({ 2: 1, 5: 6 }).ids).toEqual([2]);
  expect(scanned({ 2: 1, 5: 6 }, true).ids).toEqual([2, 5]);
  // Ten ids twice, four more calls of 5, a third that decides, and what its two registers say.
  expect(scanned({ 5: 6 }, true)).toEqual({ ids: [5], sent: 27 });
  // One that is never heard in time is given up at last.
  expect(scanned({ 5: 99 }, true)).toEqual({ ids: [], sent: 28 });
});

test("where nobody answers nobody is called again: ten ids are twenty calls", () => {
  expect(scanned({})).toEqual({ ids: [], sent: 20 });
});
