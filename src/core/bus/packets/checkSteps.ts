import type { Layout } from "@core/project";
import { hexByte } from "./bytes";
import { checkBits, checkValue, crcBegin, crcShift, ended, reflected } from "./check";
import { coveredBytes, type Dissection } from "./dissect";

/** One byte on the way to the check value. */
export interface CheckWorkStep {
  readonly byte: number;
  readonly before: number;
  readonly after: number;
  /** How it went, with the numbers: `0x1D + 0x05 = 0x22`. */
  readonly words: string;
  /** For a CRC, what stood in it after each of the eight shifts. */
  readonly shifts: readonly { readonly value: number; readonly fellOut: 0 | 1 }[];
}

export interface CheckWorking {
  readonly steps: readonly CheckWorkStep[];
  /** What is done with the last value, in words, one line each. */
  readonly endings: readonly string[];
  readonly value: number;
  readonly digits: number;
}

/** The check of a packet, byte by byte with its own numbers, as a person would work it out on paper. */
export function checkWorking(layout: Layout, dissection: Dissection): CheckWorking {
  const { rule } = layout.check;
  const bytes = coveredBytes(layout, dissection.plain, dissection.parts);
  const digits = checkBits(rule) / 4;
  const hex = (value: number) => `0x${value.toString(16).toUpperCase().padStart(digits, "0")}`;
  const steps: CheckWorkStep[] = [];
  const endings: string[] = [];
  if (rule.kind === "crc") {
    let crc = rule.reflectsIn ? reflected(rule.start, rule.bits) : rule.start;
    for (const byte of bytes) {
      const before = crc;
      crc = crcBegin(rule, crc, byte);
      const begun = crc;
      const shifts = Array.from({ length: 8 }, () => {
        const fellOut = ((rule.reflectsIn ? crc : crc >>> (rule.bits - 1)) & 1) as 0 | 1;
        crc = crcShift(rule, crc);
        return { value: crc, fellOut };
      });
      const place = rule.reflectsIn ? "low" : "high";
      steps.push({
        byte,
        before,
        after: crc,
        words: `${hex(before)} xor 0x${hexByte(byte)} at the ${place} end = ${hex(begun)}; after eight shifts ${hex(crc)}`,
        shifts,
      });
    }
    if (rule.reflectsIn !== rule.reflectsOut) {
      const turned = reflected(crc, rule.bits);
      endings.push(`turned round: ${hex(crc)} becomes ${hex(turned)}`);
      crc = turned;
    }
    if (rule.finalXor !== 0)
      endings.push(`${hex(crc)} xor ${hex(rule.finalXor)} = ${hex((crc ^ rule.finalXor) >>> 0)}`);
  } else {
    let value = 0;
    for (const byte of bytes) {
      const before = value;
      const sum = before + byte;
      value = rule.kind === "sum" ? sum & 0xff : before ^ byte;
      const over =
        rule.kind === "sum" && sum > 0xff ? ` (0x${sum.toString(16).toUpperCase()} without what is above 8 bits)` : "";
      steps.push({
        byte,
        before,
        after: value,
        words: `${hex(before)} ${rule.kind === "sum" ? "+" : "xor"} 0x${hexByte(byte)} = ${hex(value)}${over}`,
        shifts: [],
      });
    }
    if (rule.ending === "complement")
      endings.push(`all bits turned over: ${hex(value)} becomes ${hex(ended("complement", value))}`);
    if (rule.ending === "negate") endings.push(`0x100 − ${hex(value)} = ${hex(ended("negate", value))}`);
  }
  return { steps, endings, value: checkValue(rule, bytes), digits };
}
