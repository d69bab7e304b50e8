import { expect, test } from "vitest";
import { heron, kestrel } from "../families";
import { readBitRates, readErrors, readModes, writeBitRates, writeErrors, writeModes } from "./shortTables";

const readBits = (text: string) => readErrors("bits", text);
const readCodes = (text: string) => readErrors("codes", text);

test.each([kestrel, heron])("what is written of $name is read back as the same", (layout) => {
  const { kind, list } = layout.errors;
  expect(readErrors(kind, writeErrors(list))).toEqual({ ok: true, value: list });
  expect(readModes(writeModes(layout.modes))).toEqual({ ok: true, value: layout.modes });
  expect(readBitRates(writeBitRates(layout.bitRates))).toEqual({ ok: true, value: layout.bitRates });
});

test("errors are typed as a manual prints them: the hint and what it does then may be left out", () => {
  const text = "1 | supply\n\n5\tstrain\tlets go\toverload\tTake the load off, and give it torque again.";
  const strain = {
    label: "strain",
    letsGo: true,
    cause: "overload",
    hint: "Take the load off, and give it torque again.",
  };
  const value = [
    { value: 1, label: "supply", letsGo: false, cause: null, hint: "" },
    { value: 5, ...strain },
  ];
  for (const kind of ["bits", "codes"] as const) expect(readErrors(kind, text)).toEqual({ ok: true, value });
  expect(readErrors("bits", "")).toEqual({ ok: true, value: [] });
});

test("a mode without a name is called after what it does, and stops at the end of its turn", () => {
  expect(readModes("0x03 | position\n4 | multiTurn | wrap\n1 | velocity | | a wheel")).toEqual({
    ok: true,
    value: [
      { value: 3, kind: "position", atEnd: "clamp", label: "position in one turn" },
      { value: 4, kind: "multiTurn", atEnd: "wrap", label: "position over many turns" },
      { value: 1, kind: "velocity", atEnd: "clamp", label: "a wheel" },
    ],
  });
});

test("speeds may be grouped in thousands", () => {
  expect(readBitRates("1 | 57 600\n3 | 1 000 000")).toEqual({
    ok: true,
    value: [
      { value: 1, bitsPerS: 57_600 },
      { value: 3, bitsPerS: 1_000_000 },
    ],
  });
});

test.each([
  [readBits, "0 | supply\n8 | heat", "Line 2: “8” is no bit of a byte; they go from 0 to 7."],
  [readBits, "2 | heat\n2 | load", "Line 2: bit 2 is used twice."],
  [readBits, "2 |", "Line 1: an error has a name."],
  [
    readBits,
    "2 | heat | lets go | fire",
    "Line 1: “fire” is none of voltage, range, torque, operation, temperature, overload.",
  ],
  [readCodes, "0 | supply", "Line 1: “0” is no code of a byte; they go from 1 to 255, and 0 is no trouble."],
  [readCodes, "77 | heat\n77 | load", "Line 2: code 77 is used twice."],
  [readBits, "2 | heat | rests", "Line 1: “rests” is neither “lets go” nor “holds on”."],
  [readModes, "position | 3", "Line 1: “position” is no value of a register; write 3 or 0x03."],
  [readModes, "3 | wheel", "Line 1: “wheel” is none of position, multiTurn, velocity."],
  [readModes, "3 | position\n3 | velocity", "Line 2: the value 3 is used twice."],
  [
    readModes,
    "3 | position | bounce",
    "Line 1: at the end of a turn a goal is held back (clamp) or goes round (wrap).",
  ],
  [readBitRates, "fast | 57600", "Line 1: a speed is a value of its register and bits per second, like 1 | 57600."],
  [readBitRates, "1 | 57600\n1 | 115200", "Line 2: the value 1 is used twice."],
  [readBitRates, " \n", "A family has one speed at least, like 1 | 57600."],
] as const)("what cannot be read says in which line, and what would be right (%#)", (read, text, sentence) => {
  expect(read(text)).toEqual({ ok: false, problem: sentence });
});
