import {
  encodePacket,
  guardPacket,
  heron,
  kestrel,
  operationFor,
  requestOf,
  shippedLayouts,
  type Told,
} from "@core/bus";
import type { Layout } from "@core/project";
import { noAlarms } from "@core/project";
import { expect, test } from "vitest";
import { alarmsOf, noTelemetry } from "../registers/telemetry";

const joints = [
  { id: 3, layout: kestrel, label: "Elbow", isHeld: true },
  { id: 1, layout: heron, label: "Turntable", isHeld: false },
];
const packet = (layout: Layout, kind: Parameters<typeof operationFor>[1], id: number, told: Told = {}) => {
  const operation = operationFor(layout, kind);
  if (!operation) throw new Error(`${layout.name} cannot ${kind}.`);
  return encodePacket(layout, requestOf(layout, operation, id, told));
};
const judged = (...packets: Uint8Array[]) =>
  guardPacket(Uint8Array.from(packets.flatMap((one) => [...one])), shippedLayouts, joints);

test.each([
  ["a goal of a joint", packet(kestrel, "write", 3, { address: 50, data: [3, 0] }), "only the gate"],
  [
    "a goal among many",
    packet(kestrel, "groupWrite", 240, {
      address: 50,
      count: 2,
      each: [
        { id: 9, data: [0, 1] },
        { id: 3, data: [3, 0] },
      ],
    }),
    "Elbow",
  ],
  ["a goal for all", packet(kestrel, "write", 240, { address: 50, data: [3, 0] }), "only the gate"],
  ["torque with a goal behind it", packet(kestrel, "write", 3, { address: 48, data: [1, 0, 3, 0] }), "hold it (H)"],
  ["a mode that turns on and on", packet(heron, "write", 1, { address: 0x400, data: [30] }), "would leave its limits"],
  ["a start anew", packet(heron, "restart", 1), "let go of Turntable"],
  [
    "half a goal, by the address of its second byte",
    packet(kestrel, "write", 3, { address: 51, data: [9] }),
    "only the gate",
  ],
  ["limits of one that is held", packet(kestrel, "write", 3, { address: 80, data: [0, 0] }), "throw it to their edge"],
  ["a number of its own", packet(kestrel, "write", 3, { address: 112, data: [9] }), "lost to the bench"],
  ["a speed for all", packet(heron, "write", 255, { address: 0x202, data: [0xc0, 0] }), "lost to the bench"],
  [
    "a group write with a byte too many",
    packet(kestrel, "groupWrite", 240, { address: 50, count: 2, each: [{ id: 9, data: [0, 1, 7] }] }),
    "nobody can say what",
  ],
  [
    "an operation that nobody knows",
    encodePacket(kestrel, {
      direction: "request",
      id: 3,
      operation: 0x33,
      asksReply: false,
      error: 0,
      parameters: new Uint8Array(2),
    }),
    "Nobody knows what operation 51 does to Elbow",
  ],
])("%s is refused", (_, bytes, says) => {
  expect(judged(bytes)).toMatchObject({ ok: false, problem: expect.stringContaining(says) });
});

test("hidden behind noise, or behind a harmless packet, it is found as well", () => {
  const goal = packet(kestrel, "write", 3, { address: 50, data: [3, 0] });
  expect(judged(Uint8Array.of(1, 0xb4, 2), goal).ok).toBe(false);
  expect(judged(packet(kestrel, "ping", 3), goal).ok).toBe(false);
});

test("what moves no joint goes out: reads, another servo’s goal, torque off, bytes that are no packet", () => {
  expect(judged(packet(kestrel, "read", 3, { address: 22, count: 2 })).ok).toBe(true);
  expect(judged(packet(kestrel, "write", 9, { address: 50, data: [3, 0] })).ok).toBe(true);
  expect(judged(packet(kestrel, "write", 3, { address: 48, data: [0] })).ok).toBe(true);
  // Limp, its limits throw it nowhere.
  expect(judged(packet(heron, "write", 1, { address: 0x300, data: [0, 1, 0, 0] })).ok).toBe(true);
  expect(judged(Uint8Array.of(0xb4, 0x51, 1, 2, 3)).ok).toBe(true);
});

test("alarms name what is beyond its limit, and only that", () => {
  const now = { ...noTelemetry(), temperatureC: 64, volts: 10.1, loadPercent: -85 };
  expect(alarmsOf(noAlarms, now)).toEqual([]);
  expect(alarmsOf({ highestC: 60, lowestV: 10, highestV: 13, highestLoad: 80 }, now)).toEqual([
    "64 °C, more than 60 °C",
    "a load of 85 %, more than 80 %",
  ]);
});
