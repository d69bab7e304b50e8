import { expect, test } from "vitest";
import { heron, kestrel } from "./families";
import { readBitRates, readErrorBits, readModes, writeBitRates, writeErrorBits, writeModes } from "./shortTables";

test.each([kestrel, heron])("what is written of $name is read back as the same", (layout) => {
  expect(readErrorBits(writeErrorBits(layout.errorBits))).toEqual({ ok: true, value: layout.errorBits });
  expect(readModes(writeModes(layout.modes))).toEqual({ ok: true, value: layout.modes });
  expect(readBitRates(writeBitRates(layout.bitRates))).toEqual({ ok: true, value: layout.bitRates });
});

test("error bits are typed as a manual prints them: the hint and what it does then may be left out", () => {
  expect(readErrorBits("0 | supply\n\n5\toverload\tlets go\tTake the load off, and give it torque again.")).toEqual({
    ok: true,
    value: [
      { bit: 0, label: "supply", letsGo: false, hint: "" },
      { bit: 5, label: "overload", letsGo: true, hint: "Take the load off, and give it torque again." },
    ],
  });
  expect(readErrorBits("")).toEqual({ ok: true, value: [] });
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
  [readErrorBits, "0 | supply\n8 | heat", "Line 2: “8” is no bit of a byte; they go from 0 to 7."],
  [readErrorBits, "2 | heat\n2 | load", "Line 2: bit 2 is used twice."],
  [readErrorBits, "2 |", "Line 1: an error bit has a name."],
  [readErrorBits, "2 | heat | rests", "Line 1: “rests” is neither “lets go” nor “holds on”."],
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
