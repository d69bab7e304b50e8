/**
 * What the host puts on a bus, read from `docs/families/` alone and by other code than the project's: which numbers are told to hold or to let go, to go where,
 * and what else of theirs is written.
 */
export interface Told {
  /** A servo's number; null for all. */
  readonly id: number | null;
  readonly family: "kestrel" | "heron";
  readonly what: "grip" | "goal" | "ends" | "number" | "speed" | "motion" | "turning" | "anew";
  readonly value: number;
}

interface Matter {
  readonly at: number;
  readonly bytes: number;
  readonly what: Told["what"];
}

const kestrelMatters: readonly Matter[] = [
  { at: 48, bytes: 1, what: "grip" },
  { at: 50, bytes: 2, what: "goal" },
  { at: 52, bytes: 2, what: "turning" },
  { at: 80, bytes: 2, what: "ends" },
  { at: 82, bytes: 2, what: "ends" },
  { at: 90, bytes: 1, what: "motion" },
  { at: 112, bytes: 1, what: "number" },
  { at: 113, bytes: 1, what: "speed" },
];
const heronMatters: readonly Matter[] = [
  { at: 0x0200, bytes: 1, what: "number" },
  { at: 0x0202, bytes: 2, what: "speed" },
  { at: 0x0300, bytes: 4, what: "ends" },
  { at: 0x0304, bytes: 4, what: "ends" },
  { at: 0x0400, bytes: 1, what: "motion" },
  { at: 0x0402, bytes: 1, what: "grip" },
  { at: 0x0404, bytes: 4, what: "turning" },
  { at: 0x0408, bytes: 4, what: "goal" },
];

/** What one packet tells; empty for one that only asks, and for bytes that are no packet. */
export function toldBy(bytes: Uint8Array): Told[] {
  return bytes[0] === 0xb4 ? kestrel(bytes) : bytes[0] === 0xd1 && bytes[1] === 0x2e ? heron(bytes) : [];
}

function kestrel(bytes: Uint8Array): Told[] {
  const [, operation = 0, number = 0, length = 0] = bytes;
  if (bytes.length !== length + 5 || bytes.reduce((sum, byte) => sum + byte, 0) % 256 !== 0) return [];
  const carried = [...bytes.slice(4, 4 + length)];
  const ids = (id: number) => (id === 240 ? null : id);
  const big = (part: readonly number[]) =>
    signed(
      part.reduce((sum, byte) => sum * 256 + byte, 0),
      part.length,
    );
  const read = (id: number, at: number, data: readonly number[]) =>
    written(kestrelMatters, at, data, big).map((one): Told => ({ id: ids(id), family: "kestrel", ...one }));
  switch (String.fromCharCode(operation & 0x7f)) {
    case "P":
      return read(number, carried[0] ?? 0, carried.slice(1));
    case "S": {
      const [each = 0, at = 0, ...rest] = carried;
      return parted(rest, each + 1).flatMap(([id = 0, ...data]) => read(id, at, data));
    }
    case "B":
    case "F":
      return [{ id: ids(number), family: "kestrel", what: "anew", value: 0 }];
    default:
      return [];
  }
}

function heron(bytes: Uint8Array): Told[] {
  const plain: number[] = [];
  for (let at = 2; at < bytes.length; at += 1)
    if (bytes[at] === 0xac) plain.push((bytes[++at] ?? 0) ^ 0x15);
    else plain.push(bytes[at] as number);
  // `AC C4` stands for `D1`, `AC B9` for `AC`: the second byte xor 0x15.
  const length = (plain[0] ?? 0) + 256 * (plain[1] ?? 0);
  if (plain.length + 2 !== length) return [];
  const [, , operation = 0, number = 0] = plain;
  const carried = plain.slice(4, -2);
  const ids = (id: number) => (id === 255 ? null : id);
  const little = (part: readonly number[]) =>
    signed(
      part.reduceRight((sum, byte) => sum * 256 + byte, 0),
      part.length,
    );
  const read = (id: number, at: number, data: readonly number[]) =>
    written(heronMatters, at, data, little).map((one): Told => ({ id: ids(id), family: "heron", ...one }));
  const at = (carried[0] ?? 0) + 256 * (carried[1] ?? 0);
  if (operation === 20) return read(number, at, carried.slice(2));
  if (operation === 21)
    return parted(carried.slice(3), (carried[2] ?? 0) + 1).flatMap(([id = 0, ...data]) => read(id, at, data));
  return operation === 90 || operation === 91 ? [{ id: ids(number), family: "heron", what: "anew", value: 0 }] : [];
}

/** The registers that bytes from an address on touch; one of which only a part is written tells NaN. */
function written(
  matters: readonly Matter[],
  from: number,
  data: readonly number[],
  numberOf: (part: readonly number[]) => number,
): { what: Told["what"]; value: number }[] {
  return matters.flatMap(({ at, bytes, what }) => {
    if (at + bytes <= from || at >= from + data.length) return [];
    const isWhole = at >= from && at + bytes <= from + data.length;
    return [{ what, value: isWhole ? numberOf(data.slice(at - from, at - from + bytes)) : Number.NaN }];
  });
}

const signed = (value: number, bytes: number) => (value >= 2 ** (8 * bytes - 1) ? value - 2 ** (8 * bytes) : value);

function parted(list: readonly number[], size: number): number[][] {
  return Array.from({ length: size > 0 ? Math.floor(list.length / size) : 0 }, (_, at) =>
    list.slice(at * size, (at + 1) * size),
  );
}
