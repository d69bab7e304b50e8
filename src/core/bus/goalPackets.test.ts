import { expect, test } from "vitest";
import { dissect, heron, hexBytes, kestrel } from ".";
import { goalPackets } from "./goalPackets";

test("a mixed arm is two packets, one for each family, whatever the order of its joints", () => {
  const packets = goalPackets([
    { id: 2, layout: kestrel, goal: 512.4 },
    { id: 1, layout: heron, goal: 2048 },
    { id: 3, layout: kestrel, goal: 100 },
  ]);
  expect(packets.map(({ layout, from }) => [layout.name, from])).toEqual([
    ["Kestrel", []],
    ["Heron", []],
  ]);
  // To all; write to many; at 21, two bytes each: 512 to number 2, 100 to number 3.
  expect(hexBytes(packets[0]?.bytes ?? [])).toBe("5A A7 0B FF 18 15 02 02 02 00 03 00 64 5B");
});

test("a family that cannot write to many gets one packet for each, and each answers", () => {
  const plain = { ...kestrel, operations: kestrel.operations.filter(({ kind }) => kind !== "groupWrite") };
  const packets = goalPackets([
    { id: 2, layout: plain, goal: 1 },
    { id: 3, layout: plain, goal: 2 },
  ]);
  expect(packets.map(({ from }) => from)).toEqual([[2], [3]]);
});

test("a goal beyond what the register can hold stays at its end", () => {
  const [packet] = goalPackets([{ id: 2, layout: kestrel, goal: 5000 }]);
  const { packet: told } = dissect(kestrel, "request", packet?.bytes ?? []);
  expect([...(told?.parameters ?? [])].slice(-2)).toEqual([0x03, 0xff]);
});
