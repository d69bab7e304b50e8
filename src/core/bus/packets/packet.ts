import type { Field, Layout, Stuffing } from "@core/project";
import { wholeBytes } from "./bytes";
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
  const parameters =
    layout.stuffing?.kind === "insert" ? inserted(layout.stuffing, packet.parameters) : packet.parameters;
  const parts = new Map<Field, readonly number[] | Uint8Array>([
    ["header", headerOf(layout, direction)],
    ["id", [packet.id]],
    ["operation", [operationByte(layout, packet)]],
    ["error", [packet.error]],
    ["parameters", parameters],
    ["length", wholeBytes(parameters.length + lengthBeyond(layout, direction), layout.length.size, layout.byteOrder)],
  ]);
  const fields = fieldsOf(layout, direction);
  const covered: number[] = [];
  for (const field of fields) if (layout.check.covers.includes(field)) covered.push(...(parts.get(field) ?? []));
  const { rule, byteOrder } = layout.check;
  parts.set("check", wholeBytes(checkValue(rule, covered), checkBits(rule) / 8, byteOrder));

  const bytes: number[] = [];
  for (const field of fields) {
    const part = parts.get(field) ?? [];
    if (field === "header" || layout.stuffing?.kind !== "escape") bytes.push(...part);
    else for (const byte of part) escapeOnto(bytes, layout.stuffing, byte);
  }
  return Uint8Array.from(bytes);
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
