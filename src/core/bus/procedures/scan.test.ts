import { expect, test } from "vitest";
import { kestrel } from "../families/kestrel";
import type { Packet } from "../packets/packet";
import type { WireAnswer } from "../wire/wire";
import { silence } from "./procedure";
import { scan } from "./scan";

/** Runs a scan of ids 0 to 9 against devices that answer from so many calls on. Gives who was found, and how many calls it took. */
function scanned(answersFrom: Readonly<Record<number, number>>) {
  const run = scan({ layouts: [kestrel], lowestId: 0, highestId: 9, bitsPerS: [115_200] });
  const called = new Map<number, number>();
  let answer: WireAnswer = silence;
  for (let sent = 0; ; ) {
    const { value, done } = run.next(answer);
    if (done) return { ids: value.map(({ id }) => id), sent };
    answer = silence;
    if (value.kind !== "send") continue;
    sent += 1;
    const [id = -1] = value.from;
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
    answer = { ...silence, replies: [{ packet, bytes: new Uint8Array(), atUs: 0 }] };
  }
}

test("a device whose first replies came too late is found when those that kept silent are called once more", () => {
  expect(scanned({ 2: 1, 5: 3 }).ids).toEqual([2, 5]);
});

test("where nobody answers nobody is called again: ten ids are twenty calls", () => {
  expect(scanned({})).toEqual({ ids: [], sent: 20 });
});
