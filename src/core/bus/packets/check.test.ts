import type { CheckRule } from "@core/project";
import fc from "fast-check";
import { expect, test } from "vitest";
import { checkValue, checkWords, crcBegin, crcShift, reflected, usualChecks } from "./check";

const digits = [..."123456789"].map((digit) => digit.charCodeAt(0));
const rule = (bits: 8 | 16 | 32, polynomial: number, start: number, turns: boolean, finalXor: number): CheckRule => ({
  kind: "crc",
  bits,
  polynomial,
  start,
  reflectsIn: turns,
  reflectsOut: turns,
  finalXor,
});

// The “check” column of the public catalogues of parametrised CRCs: the value of the nine digits.
test.each([
  [rule(8, 0x07, 0x00, false, 0x00), 0xf4],
  [rule(8, 0x07, 0xff, true, 0x00), 0xd0],
  [rule(8, 0x07, 0x00, false, 0x55), 0xa1],
  [rule(8, 0x31, 0x00, true, 0x00), 0xa1],
  [rule(8, 0x31, 0xff, false, 0x00), 0xf7],
  [rule(8, 0x1d, 0xff, false, 0xff), 0x4b],
  [rule(8, 0x9b, 0x00, true, 0x00), 0x25],
  [rule(8, 0x9b, 0xff, false, 0x00), 0xda],
  [rule(8, 0xd5, 0x00, false, 0x00), 0xbc],
  [rule(8, 0x2f, 0xff, false, 0xff), 0xdf],
  [rule(8, 0x39, 0x00, true, 0x00), 0x15],
  [rule(16, 0x8005, 0x0000, true, 0x0000), 0xbb3d],
  [rule(16, 0x8005, 0xffff, true, 0x0000), 0x4b37],
  [rule(16, 0x8005, 0xffff, true, 0xffff), 0xb4c8],
  [rule(16, 0x8005, 0x0000, false, 0x0000), 0xfee8],
  [rule(16, 0x1021, 0xffff, false, 0x0000), 0x29b1],
  [rule(16, 0x1021, 0x0000, false, 0x0000), 0x31c3],
  [rule(16, 0x1021, 0xffff, false, 0xffff), 0xd64e],
  [rule(16, 0x1021, 0x0000, true, 0x0000), 0x2189],
  [rule(16, 0x1021, 0xffff, true, 0xffff), 0x906e],
  [rule(16, 0x1021, 0x1d0f, false, 0x0000), 0xe5cc],
  [rule(16, 0x3d65, 0x0000, true, 0xffff), 0xea82],
  [rule(32, 0x04c11db7, 0xffffffff, true, 0xffffffff), 0xcbf43926],
  [rule(32, 0x04c11db7, 0xffffffff, false, 0xffffffff), 0xfc891918],
  [rule(32, 0x04c11db7, 0xffffffff, false, 0), 0x0376e6e7],
  [rule(32, 0x1edc6f41, 0xffffffff, true, 0xffffffff), 0xe3069283],
] as const)("%j of “123456789”", (crc, expected) => expect(checkValue(crc, digits)).toBe(expected));

test("reflection of the result alone: the same shifts, turned round at the end", () => {
  const plain = rule(16, 0x1021, 0, false, 0);
  const turned = { ...plain, reflectsOut: true } as CheckRule;
  expect(checkValue(turned, digits)).toBe(0b1100_0011_1000_1100);
});

test("sum and xor of the nine digits, by hand: 477 = 0x1DD, and 0x31", () => {
  expect(checkValue({ kind: "sum", ending: "plain" }, digits)).toBe(0xdd);
  expect(checkValue({ kind: "sum", ending: "complement" }, digits)).toBe(0x22);
  expect(checkValue({ kind: "sum", ending: "negate" }, digits)).toBe(0x23);
  expect(checkValue({ kind: "xor", ending: "plain" }, digits)).toBe(0x31);
});

test("byte by byte and shift by shift comes to what the table says", () => {
  fc.assert(
    fc.property(fc.constantFrom(...usualChecks), fc.uint8Array({ minLength: 1, maxLength: 20 }), (check, bytes) => {
      if (check.kind !== "crc") return;
      let crc = check.reflectsIn ? reflected(check.start, check.bits) : check.start;
      for (const byte of bytes) {
        crc = crcBegin(check, crc, byte);
        for (let bit = 0; bit < 8; bit += 1) crc = crcShift(check, crc);
      }
      expect((crc ^ check.finalXor) >>> 0).toBe(checkValue(check, bytes));
    }),
  );
});

test("no two of the usual checks are the same, and each says what it is", () => {
  const words = usualChecks.map(checkWords);
  expect(new Set(words).size).toBe(words.length);
  expect(words).toContain("CRC-16, polynomial 0x1021, start 0xFFFF, reflected, final xor 0xFFFF");
});
