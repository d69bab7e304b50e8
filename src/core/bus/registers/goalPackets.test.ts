import { dissect, heron, hexBytes, kestrel } from "@core/bus";
import type { Layout } from "@core/project";
import { expect, test } from "vitest";
import { goalPackets } from "./goalPackets";

test("a mixed arm is two packets, one for each family, whatever the order of its joints", () => {
  const packets = goalPackets([
    { id: 2, layout: kestrel, goal: 600.4 },
    { id: 1, layout: heron, goal: 18_000 },
    { id: 3, layout: kestrel, goal: -100 },
  ]);
  expect(packets.map(({ layout, from }) => [layout.name, from])).toEqual([
    ["Kestrel", []],
    ["Heron", []],
  ]);
  // Spread to all; two bytes each, at 50: 600 = 0x0258 to number 2, −100 = 0xFF9C to number 3.
  expect(hexBytes(packets[0]?.bytes ?? [])).toBe("B4 53 F0 08 02 32 02 02 58 03 FF 9C D3");
});

test("a family that cannot write to many gets one packet for each; asked for no answer, nobody gives one", () => {
  const plain: Layout = { ...kestrel, operations: kestrel.operations.filter(({ kind }) => kind !== "groupWrite") };
  const packets = goalPackets([
    { id: 2, layout: plain, goal: 1 },
    { id: 3, layout: plain, goal: 2 },
  ]);
  expect(packets.map(({ from }) => from)).toEqual([[], []]);
  const always = plain.operations.map((one) => ({ ...one, answers: "always" as const }));
  const chatty = goalPackets([2, 3].map((id) => ({ id, layout: { ...plain, operations: always }, goal: id })));
  expect(chatty.map(({ from }) => from)).toEqual([[2], [3]]);
});

test("a goal beyond what the register can hold stays at its end", () => {
  const [packet] = goalPackets([{ id: 2, layout: kestrel, goal: 50_000 }]);
  const { packet: told } = dissect(kestrel, "request", packet?.bytes ?? []);
  expect([...(told?.parameters ?? [])].slice(-2)).toEqual([0x27, 0x10]);
});
