import { expect, test } from "vitest";
import { heron, kestrel } from "../families";
import { readOperations, readRegisters, writeOperations, writeRegisters } from "./layoutText";
import { readLayout, readSettings, writeLayout, writeSettings } from "./settings";

test.each([kestrel, heron])("the tables of $name come back from their lines as they were", (layout) => {
  expect(readOperations(writeOperations(layout.operations))).toEqual({ ok: true, value: layout.operations });
  expect(readRegisters(writeRegisters(layout.registers))).toEqual({ ok: true, value: layout.registers });
});

test("a row as somebody types it from a manual", () => {
  const read = readRegisters("0x1C | Place | 2 | read | volatile | 0 to 719 | ° | 0.5 | 0 | position | where it is\n");
  expect(read.ok && read.value[0]).toMatchObject({ address: 28, size: 2, high: 719, scale: 0.5, role: "position" });
});

test("a value with its direction in a byte of its own, an answer on request, and the bit of a sign", () => {
  const read = readRegisters("19 | Load | 2 back 1 at 21 | read | volatile | -1000 to 1000 | % | 0.1 | 0 | load");
  expect(read.ok && read.value[0]).toMatchObject({ size: 2, sign: { address: 21, back: 1 }, low: -1000 });
  expect(readOperations("0x50 | write | put | address 1, data | when asked: nothing")).toMatchObject({
    ok: true,
    value: [{ code: 0x50, reply: [], answers: "when asked" }],
  });
});

test.each([
  ["x | Place | 2 | read | volatile | 0 to 9", "Line 1: “x” is no address"],
  ["1 | Place | 3 | read | volatile | 0 to 9", "is no size"],
  ["1 | Place | 2 | look | volatile | 0 to 9", "neither read nor write"],
  ["1 | Place | 2 | read | volatile | many", "is no range"],
  ["1 | A | 2 | read | volatile | 0 to 9\n2 | B | 1 | read | volatile | 0 to 9", "Line 2: B lies over A"],
  ["1 | A | 2 | read | volatile | 0 to 9 | | 1 | 0 | wings", "“wings” is none of"],
])("“%s” is refused where it is wrong", (text, says) => {
  expect(readRegisters(text)).toMatchObject({ ok: false, problem: expect.stringContaining(says) });
});

test("an operation with a code twice, of an unknown kind, or that carries nonsense is refused", () => {
  for (const text of ["0x10 | ping | a\n0x10 | read | b", "0x10 | sing", "0x10 | read | r | soup"])
    expect(readOperations(text)).toMatchObject({ ok: false });
});

test("a family comes back from its file; a damaged one says where", () => {
  expect(readLayout(writeLayout(heron), "mine")).toEqual({ ok: true, value: { ...heron, id: "mine" } });
  const damaged = writeLayout(heron).replace('"low first"', '"sideways"');
  expect(readLayout(damaged, "mine")).toMatchObject({ ok: false, problem: expect.stringContaining("byteOrder") });
  expect(readLayout("{}", "mine")).toMatchObject({ ok: false });
});

test("settings are of one family, and within its ranges", () => {
  const values = new Map(kestrel.registers.map(({ address, default: value }) => [address, value]));
  const file = writeSettings(kestrel, values);
  expect(readSettings(kestrel, file)).toMatchObject({ ok: true });
  expect(file).not.toContain('"Number"');
  expect(readSettings(heron, file)).toMatchObject({
    ok: false,
    problem: expect.stringContaining("settings of a Kestrel"),
  });
  expect(readSettings(kestrel, file.replace('"Hottest": 105', '"Hottest": 205'))).toMatchObject({
    ok: false,
  });
});
