import { BusWire, encodePacket, kestrel, operationFor } from "@core/bus";
import { expect, test } from "vitest";

const code = operationFor(kestrel, "ping")?.code ?? 0;
const packet = (direction: "request" | "reply", id = 3) =>
  encodePacket(kestrel, {
    direction,
    id,
    operation: code,
    asksReply: true,
    error: 0,
    parameters: new Uint8Array(0),
  });

/** A wire on which so many questions were answered, each so long after its last bit. */
function wireAfter(answers: number, waitedUs: number, isThroughAdapter = true): BusWire {
  const wire = new BusWire(1_000_000, () => {}, isThroughAdapter);
  let nowUs = 0;
  for (let at = 0; at < answers; at += 1) {
    let isDone = false;
    const onDone = () => {
      isDone = true;
    };
    const rest = { replyBytes: null, listensOut: false, tries: 1, rank: 2, onDone };
    wire.ask({ layout: kestrel, bytes: packet("request"), from: [3], ...rest }, nowUs);
    wire.wake(nowUs);
    // Ten bits a byte at 1 Mbit/s.
    wire.receive(packet("reply"), nowUs + packet("request").length * 10 + waitedUs);
    expect(isDone).toBe(true);
    nowUs += 100_000;
  }
  return wire;
}

test("answers through an adapter are given what the last ones took, with half as much again, and at least 8 ms", () => {
  expect(wireAfter(0, 0).heldBackUs).toBe(20_000);
  expect(wireAfter(7, 500).heldBackUs).toBe(20_000);
  expect(wireAfter(1, 16_000).heldBackUs).toBeCloseTo(24_000, 3);
  expect(wireAfter(8, 16_000).heldBackUs).toBeCloseTo(24_000, 3);
  expect(wireAfter(40, 500).heldBackUs).toBe(8000);
});

test("an answer that comes behind the next question tells how long to wait; else all of them would go on coming too late", () => {
  const wire = new BusWire(1_000_000, () => {}, true);
  const heard: number[] = [];
  let nowUs = 0;
  /** Devices 1 to 12, each asked in turn; every answer is handed on 45 ms after its question. */
  const late: { readonly atUs: number; readonly bytes: Uint8Array }[] = [];
  for (let id = 1; id <= 12; id += 1) {
    let isDone = false;
    const onDone = ({ replies }: { readonly replies: readonly unknown[] }) => {
      isDone = true;
      if (replies.length > 0) heard.push(id);
    };
    const rest = { layout: kestrel, from: [id], replyBytes: null, listensOut: false, tries: 1, rank: 2, onDone };
    wire.ask({ ...rest, bytes: packet("request", id) }, nowUs);
    wire.wake(nowUs);
    late.push({ atUs: nowUs + 45_000, bytes: packet("reply", id) });
    for (; !isDone; nowUs += 500) {
      while ((late[0]?.atUs ?? Number.POSITIVE_INFINITY) <= nowUs)
        wire.receive(late.shift()?.bytes as Uint8Array, nowUs);
      wire.wake(nowUs);
    }
  }
  expect(heard).toContain(12);
  expect(heard.length).toBeGreaterThan(8);
  expect(wire.heldBackUs).toBe(60_000);
});

test("on a wire without an adapter nothing is held back", () => {
  expect(wireAfter(10, 500, false).heldBackUs).toBe(0);
});

test.each([
  [true, 1],
  [false, 0],
])(
  "a computer that stood still looks into its buffers before it gives an answer up (adapter: %s; a scan had missed a device)",
  (isThroughAdapter, answers) => {
    const wire = new BusWire(1_000_000, () => {}, isThroughAdapter);
    let heard = -1;
    const onDone = ({ replies }: { readonly replies: readonly unknown[] }) => {
      heard = replies.length;
    };
    const once = { replyBytes: null, listensOut: false, tries: 1, rank: 2, onDone };
    wire.ask({ layout: kestrel, bytes: packet("request"), from: [3], ...once }, 0);
    wire.wake(0);
    // The timer is first, long after its time; what had come in follows.
    wire.wake(400_000);
    wire.receive(packet("reply"), 400_100);
    wire.wake(410_000);
    expect(heard).toBe(answers);
    // And where nothing had come, it is given up all the same.
    wire.ask({ layout: kestrel, bytes: packet("request"), from: [3], ...once }, 500_000);
    wire.wake(500_000);
    wire.wake(900_000);
    wire.wake(910_000);
    expect(heard).toBe(0);
  },
);
