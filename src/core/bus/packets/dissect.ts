import type { Field, Layout } from "@core/project";
import { readWhole } from "./bytes";
import { checkBits, checkValue } from "./check";
import {
  askMask,
  type Direction,
  fieldSize,
  fieldsOf,
  headerOf,
  isMarked,
  lengthBeyond,
  longestParameters,
  type Packet,
  withoutInserted,
} from "./packet";

/** Where one field stands, in the plain bytes. */
export interface Part {
  readonly field: Field;
  readonly from: number;
  readonly to: number;
}

/** What bytes turned out to be, read as one packet from their beginning. */
export interface Dissection {
  /** `short` may yet become whole with more bytes. */
  readonly status: "whole" | "short" | "bad";
  /** What is wrong with it. */
  readonly fault: "header" | "length" | "check" | "stuffing" | null;
  /** The bytes with what the stuffing added taken out, the header first. */
  readonly plain: readonly number[];
  /** Where each plain byte begins on the wire, and as the last entry where the packet ends. */
  readonly wireAt: readonly number[];
  /** The fields that were reached. */
  readonly parts: readonly Part[];
  /** The length and the check as they stand in the packet, and as they should be; NaN where they were not reached. */
  readonly statedLength: number;
  readonly statedCheck: number;
  readonly expectedCheck: number;
  readonly packet: Packet | null;
}

/**
 * Reads the bytes from `start` up to `end` as one packet of the family. Never throws: what does not fit is said in `status` and `fault`,
 * with all the fields that were reached.
 */
export function dissect(
  layout: Layout,
  direction: Direction,
  bytes: ArrayLike<number>,
  start = 0,
  end = bytes.length,
): Dissection {
  const header = headerOf(layout, direction);
  const plain: number[] = [];
  const wireAt: number[] = [];
  let at = start;
  /** Brings plain bytes up to a count; says what stopped it. */
  const reach = (count: number): "short" | "stuffing" | null => {
    const { stuffing } = layout;
    while (plain.length < count) {
      if (at >= end) return "short";
      let byte = bytes[at] as number;
      const from = at;
      at += 1;
      if (stuffing?.kind === "escape" && plain.length >= header.length) {
        if (byte === stuffing.escape) {
          if (at >= end) {
            at = from;
            return "short";
          }
          byte = (bytes[at] as number) ^ stuffing.xor;
          if (!isMarked(stuffing, byte)) return "stuffing";
          at += 1;
        } else if (isMarked(stuffing, byte)) return "stuffing";
      }
      plain.push(byte);
      wireAt.push(from);
    }
    return null;
  };
  const parts: Part[] = [];
  let statedLength = Number.NaN;
  let statedCheck = Number.NaN;
  let expectedCheck = Number.NaN;
  const told = (status: Dissection["status"], fault: Dissection["fault"], packet: Packet | null = null): Dissection => {
    wireAt.push(at);
    return { status, fault, plain, wireAt, parts, statedLength, statedCheck, expectedCheck, packet };
  };

  for (const [place, wanted] of header.entries()) {
    if (reach(place + 1)) return told("short", null);
    if (plain[place] !== wanted) return told("bad", "header");
  }
  parts.push({ field: "header", from: 0, to: header.length });
  let parameters = 0;
  for (const field of fieldsOf(layout, direction)) {
    if (field === "header") continue;
    const from = plain.length;
    const size = field === "parameters" ? parameters : fieldSize(layout, direction, field);
    const stopped = reach(from + size);
    if (stopped) return stopped === "short" ? told("short", null) : told("bad", stopped);
    parts.push({ field, from, to: from + size });
    if (field !== "length") continue;
    statedLength = readWhole(plain, from, size, layout.byteOrder);
    parameters = statedLength - lengthBeyond(layout, direction);
    if (parameters < 0 || parameters > longestParameters) return told("bad", "length");
  }
  const partOf = (field: Field) => parts.find((part) => part.field === field);
  const check = partOf("check") as Part;
  statedCheck = readWhole(plain, check.from, check.to - check.from, layout.check.byteOrder);
  expectedCheck = checkValue(layout.check.rule, coveredBytes(layout, plain, parts));
  if (statedCheck !== expectedCheck) return told("bad", "check");
  const body = partOf("parameters") as Part;
  const stuffed = plain.slice(body.from, body.to);
  const whole =
    layout.stuffing?.kind === "insert" ? withoutInserted(layout.stuffing, stuffed) : Uint8Array.from(stuffed);
  if (!whole) return told("bad", "stuffing");
  const byteOf = (field: Field, none: number) => plain[partOf(field)?.from ?? -1] ?? none;
  const operation = byteOf("operation", -1);
  const mask = direction === "request" && operation >= 0 ? askMask(layout) : 0;
  return told("whole", null, {
    direction,
    id: byteOf("id", 0),
    operation: mask ? operation & ~mask : operation,
    asksReply: (operation & mask) !== 0,
    error: byteOf("error", 0),
    parameters: whole,
  });
}

/** The bytes that the check covers, in the order of the wire. */
export function coveredBytes(layout: Layout, plain: readonly number[], parts: readonly Part[]): number[] {
  const covered: number[] = [];
  for (const { field, from, to } of parts)
    if (layout.check.covers.includes(field)) for (let at = from; at < to; at += 1) covered.push(plain[at] as number);
  return covered;
}

/** How many bytes the check takes. */
export const checkSize = (layout: Layout): number => checkBits(layout.check.rule) / 8;
