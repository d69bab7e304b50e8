import type { Field, Layout, Stuffing } from "@core/project";
import { putWhole } from "./bytes";
import { checkBits, checkValue } from "./check";

export type Direction = "request" | "reply";

/** One message on the wire, free of how its family writes it. */
export interface Packet {
  readonly direction: Direction;
  readonly id: number;
  /** The operation's code; −1 in a reply of a family that does not repeat it. */
  readonly operation: number;
  /** A request of a family that answers only when asked says here that it does; false in all others. */
  readonly asksReply: boolean;
  /** The error byte of a reply; 0 in a request. */
  readonly error: number;
  readonly parameters: Uint8Array;
}

/** No packet is longer than this: a length beyond it is noise. */
export const longestParameters = 1024;

export const fieldsOf = (layout: Layout, direction: Direction): readonly Field[] =>
  direction === "request" ? layout.requestFields : layout.replyFields;

export const headerOf = (layout: Layout, direction: Direction): readonly number[] =>
  (direction === "reply" && layout.replyHeader) || layout.header;

/** How many bytes a field takes; the parameters take what is left. */
export function fieldSize(layout: Layout, direction: Direction, field: Field): number {
  switch (field) {
    case "header":
      return headerOf(layout, direction).length;
    case "length":
      return layout.length.size;
    case "check":
      return checkBits(layout.check.rule) / 8;
    case "parameters":
      return 0;
    default:
      return 1;
  }
}

/** What stands in the length field beside the bytes of the parameters. */
export function lengthBeyond(layout: Layout, direction: Direction): number {
  let beyond = layout.length.plus;
  for (const field of fieldsOf(layout, direction))
    if (layout.length.counts.includes(field)) beyond += fieldSize(layout, direction, field);
  return beyond;
}

/** The very bytes of a packet on the wire, header, length, check and stuffing included. */
export function encodePacket(layout: Layout, packet: Packet): Uint8Array {
  const { direction } = packet;
  const { check, length, byteOrder, stuffing } = layout;
  const parameters = stuffing?.kind === "insert" ? inserted(stuffing, packet.parameters) : packet.parameters;
  const plain: number[] = [];
  const covered: number[] = [];
  let checkAt = 0;
  // Many of these leave in every frame: each byte is put where it goes, and nothing is gathered beside it.
  for (const field of fieldsOf(layout, direction)) {
    const from = plain.length;
    if (field === "header") append(plain, headerOf(layout, direction));
    else if (field === "id") plain.push(packet.id);
    else if (field === "operation") plain.push(operationByte(layout, packet));
    else if (field === "error") plain.push(packet.error);
    else if (field === "parameters") append(plain, parameters);
    else if (field === "length")
      putWhole(plain, from, parameters.length + lengthBeyond(layout, direction), length.size, byteOrder);
    else {
      checkAt = from;
      putWhole(plain, from, 0, fieldSize(layout, direction, field), check.byteOrder);
    }
    if (check.covers.includes(field)) for (let at = from; at < plain.length; at += 1) covered.push(plain[at] as number);
  }
  putWhole(plain, checkAt, checkValue(check.rule, covered), checkBits(check.rule) / 8, check.byteOrder);
  if (stuffing?.kind !== "escape") return Uint8Array.from(plain);
  const headerSize = headerOf(layout, direction).length;
  const bytes: number[] = [];
  for (const [at, byte] of plain.entries())
    if (at < headerSize) bytes.push(byte);
    else escapeOnto(bytes, stuffing, byte);
  return Uint8Array.from(bytes);
}

function append(bytes: number[], more: ArrayLike<number>): void {
  for (let at = 0; at < more.length; at += 1) bytes.push(more[at] as number);
}

/** The bit of the operation that asks for an answer, as a mask; 0 where the family has none. */
export const askMask = (layout: Layout): number => (layout.askBit === null ? 0 : 1 << layout.askBit);

function operationByte(layout: Layout, { direction, operation, asksReply }: Packet): number {
  if (direction === "reply") return layout.replyCode ?? operation & 0xff;
  return (operation & 0xff) | (asksReply ? askMask(layout) : 0);
}

type EscapeStuffing = Extract<Stuffing, { kind: "escape" }>;
type InsertStuffing = Extract<Stuffing, { kind: "insert" }>;

export const isMarked = (stuffing: EscapeStuffing, byte: number): boolean =>
  byte === stuffing.escape || stuffing.marks.includes(byte);

function escapeOnto(bytes: number[], stuffing: EscapeStuffing, byte: number): void {
  if (isMarked(stuffing, byte)) bytes.push(stuffing.escape, byte ^ stuffing.xor);
  else bytes.push(byte);
}

/** The parameters with the one byte put in after each run. */
function inserted(stuffing: InsertStuffing, parameters: Uint8Array): Uint8Array {
  const bytes: number[] = [];
  let since = 0;
  for (const byte of parameters) {
    bytes.push(byte);
    since += 1;
    if (endsWithRun(bytes, stuffing.after, since)) {
      bytes.push(stuffing.insert);
      since = 0;
    }
  }
  return Uint8Array.from(bytes);
}

/** The parameters as they were before; null where a run is not followed by the byte that belongs there. */
export function withoutInserted(stuffing: InsertStuffing, stuffed: readonly number[]): Uint8Array | null {
  const bytes: number[] = [];
  let since = 0;
  for (let at = 0; at < stuffed.length; at += 1) {
    bytes.push(stuffed[at] as number);
    since += 1;
    if (!endsWithRun(bytes, stuffing.after, since)) continue;
    at += 1;
    if (stuffed[at] !== stuffing.insert) return null;
    since = 0;
  }
  return Uint8Array.from(bytes);
}

const endsWithRun = (bytes: readonly number[], run: readonly number[], since: number): boolean =>
  since >= run.length && run.every((byte, at) => bytes[bytes.length - run.length + at] === byte);
