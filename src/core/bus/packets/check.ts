import type { CheckRule, CrcRule } from "@core/project";

/** The bits of a CRC, or 8 for a sum or an xor. */
export const checkBits = (rule: CheckRule): number => (rule.kind === "crc" ? rule.bits : 8);

/**
 * The check value of the bytes by a rule. For a CRC in the way of the catalogues (polynomial, start, reflection, final xor);
 * sums and xors are taken to 8 bits.
 */
export function checkValue(rule: CheckRule, bytes: Iterable<number>): number {
  if (rule.kind === "crc") return crcValue(rule, bytes);
  let value = 0;
  for (const byte of bytes) value = rule.kind === "sum" ? (value + byte) & 0xff : value ^ byte;
  return ended(rule.ending, value);
}

export function ended(ending: "plain" | "complement" | "negate", value: number): number {
  if (ending === "complement") return ~value & 0xff;
  return ending === "negate" ? -value & 0xff : value & 0xff;
}

function crcValue(rule: CrcRule, bytes: Iterable<number>): number {
  const table = tableOf(rule);
  const { bits } = rule;
  let crc = rule.reflectsIn ? reflected(rule.start, bits) : rule.start;
  if (rule.reflectsIn) for (const byte of bytes) crc = (crc >>> 8) ^ (table[(crc ^ byte) & 0xff] as number);
  else
    for (const byte of bytes)
      crc = ((crc << 8) ^ (table[((crc >>> (bits - 8)) ^ byte) & 0xff] as number)) & maskOf(bits);
  if (rule.reflectsIn !== rule.reflectsOut) crc = reflected(crc >>> 0, bits);
  return ((crc ^ rule.finalXor) & maskOf(bits)) >>> 0;
}

const maskOf = (bits: number): number => (bits === 32 ? -1 : 2 ** bits - 1);

/** The bits of a value in the other order. */
export function reflected(value: number, bits: number): number {
  let turned = 0;
  for (let bit = 0; bit < bits; bit += 1) if ((value >>> bit) & 1) turned |= 1 << (bits - 1 - bit);
  return turned >>> 0;
}

const tables = new WeakMap<CrcRule, Uint32Array>();

/** What eight shifts make of each byte; made once for each rule. */
function tableOf(rule: CrcRule): Uint32Array {
  const known = tables.get(rule);
  if (known) return known;
  const table = Uint32Array.from({ length: 256 }, (_, byte) => {
    let crc = crcBegin(rule, 0, byte);
    for (let bit = 0; bit < 8; bit += 1) crc = crcShift(rule, crc);
    return crc;
  });
  tables.set(rule, table);
  return table;
}

/** The CRC once a byte has been xored into it: at its low end where bytes are reflected, else at its high end. */
export const crcBegin = (rule: CrcRule, crc: number, byte: number): number =>
  ((rule.reflectsIn ? crc ^ byte : crc ^ (byte << (rule.bits - 8))) & maskOf(rule.bits)) >>> 0;

/** One shift, with the polynomial xored in when a 1 falls out. */
export function crcShift(rule: CrcRule, crc: number): number {
  const { bits, polynomial, reflectsIn } = rule;
  const falls = reflectsIn ? crc & 1 : (crc >>> (bits - 1)) & 1;
  const shifted = reflectsIn ? crc >>> 1 : (crc << 1) & maskOf(bits);
  return ((falls ? shifted ^ (reflectsIn ? reflected(polynomial, bits) : polynomial) : shifted) & maskOf(bits)) >>> 0;
}

/** The rule in words, by its parameters. */
export function checkWords(rule: CheckRule): string {
  if (rule.kind !== "crc") {
    const name = rule.kind === "sum" ? "8-bit sum" : "xor of all bytes";
    return rule.ending === "plain" ? name : `${name}, ${rule.ending === "complement" ? "complemented" : "negated"}`;
  }
  const hex = (value: number) =>
    `0x${value
      .toString(16)
      .toUpperCase()
      .padStart(rule.bits / 4, "0")}`;
  const reflection =
    rule.reflectsIn && rule.reflectsOut
      ? "reflected"
      : rule.reflectsIn
        ? "reflected in"
        : rule.reflectsOut
          ? "reflected out"
          : "not reflected";
  return `CRC-${rule.bits}, polynomial ${hex(rule.polynomial)}, start ${hex(rule.start)}, ${reflection}, final xor ${hex(rule.finalXor)}`;
}

const crc = (bits: 8 | 16 | 32, polynomial: number, start: number, reflects: boolean, finalXor: number): CheckRule => ({
  kind: "crc",
  bits,
  polynomial,
  start,
  reflectsIn: reflects,
  reflectsOut: reflects,
  finalXor,
});

/** The checks that are worth trying on a packet whose rule nobody knows, the usual ones first. */
export const usualChecks: readonly CheckRule[] = [
  { kind: "sum", ending: "complement" },
  { kind: "sum", ending: "plain" },
  { kind: "sum", ending: "negate" },
  { kind: "xor", ending: "plain" },
  { kind: "xor", ending: "complement" },
  crc(16, 0x8005, 0xffff, true, 0),
  crc(16, 0x8005, 0, false, 0),
  crc(16, 0x8005, 0, true, 0),
  crc(16, 0x8005, 0xffff, true, 0xffff),
  crc(16, 0x1021, 0xffff, false, 0),
  crc(16, 0x1021, 0, false, 0),
  crc(16, 0x1021, 0xffff, false, 0xffff),
  crc(16, 0x1021, 0, true, 0),
  crc(16, 0x1021, 0xffff, true, 0xffff),
  crc(16, 0x1021, 0x1d0f, false, 0),
  crc(16, 0x3d65, 0, true, 0xffff),
  crc(8, 0x07, 0, false, 0),
  crc(8, 0x07, 0xff, true, 0),
  crc(8, 0x07, 0, false, 0x55),
  crc(8, 0x31, 0, true, 0),
  crc(8, 0x31, 0xff, false, 0),
  crc(8, 0x1d, 0xff, false, 0xff),
  crc(8, 0x1d, 0xfd, false, 0),
  crc(8, 0x9b, 0, true, 0),
  crc(8, 0x9b, 0xff, false, 0),
  crc(8, 0xd5, 0, false, 0),
  crc(8, 0x2f, 0xff, false, 0xff),
  crc(8, 0x39, 0, true, 0),
  crc(32, 0x04c11db7, 0xffff_ffff, true, 0xffff_ffff),
  crc(32, 0x04c11db7, 0xffff_ffff, false, 0xffff_ffff),
  crc(32, 0x04c11db7, 0xffff_ffff, false, 0),
  crc(32, 0x1edc6f41, 0xffff_ffff, true, 0xffff_ffff),
];
