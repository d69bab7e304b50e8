import { BusWire, encodePacket, kestrel, operationFor } from "@core/bus";
import { expect, test } from "vitest";

const code = operationFor(kestrel, "ping")?.code ?? 0;
const packet = (direction: "request" | "reply") =>
  encodePacket(kestrel, {
    direction,
    id: 3,
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
  expect(wireAfter(7, 16_000).heldBackUs).toBe(20_000);
  expect(wireAfter(8, 16_000).heldBackUs).toBeCloseTo(24_000, 3);
  expect(wireAfter(40, 500).heldBackUs).toBe(8000);
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
