import type { Layout, Operation, OperationKind, Piece, Register } from "@core/project";
import { readWhole, wholeBytes } from "../packets/bytes";
import { encodePacket, type Packet } from "../packets/packet";
import { rawBytes, reachOf } from "./registers";

export const operationFor = (layout: Layout, kind: OperationKind): Operation | null =>
  layout.operations.find((operation) => operation.kind === kind) ?? null;

/** What an operation is told; what its pieces do not name is left out. */
export interface Told {
  readonly address?: number;
  readonly count?: number;
  readonly data?: ArrayLike<number>;
  /** For operations to many: each device, with its bytes where it is written to. */
  readonly each?: readonly { readonly id: number; readonly data?: ArrayLike<number> }[];
}

/** A request of the family for an operation. Where it is answered only when asked, it asks, unless told not to. */
export function requestOf(
  layout: Layout,
  operation: Operation,
  id: number,
  told: Told = {},
  asksReply = operation.reply !== null && operation.answers === "when asked",
): Packet {
  return {
    direction: "request",
    id,
    operation: operation.code,
    asksReply,
    error: 0,
    parameters: parametersOf(layout, operation.request, told),
  };
}

/** Whether the device that a request is for answers it. */
export const isAnswered = (operation: Operation, { asksReply }: Pick<Packet, "asksReply">): boolean =>
  operation.reply !== null && (operation.answers === "always" || asksReply);

export function parametersOf(layout: Layout, pieces: readonly Piece[], told: Told): Uint8Array {
  const bytes: number[] = [];
  for (const piece of pieces) {
    if (piece.kind === "address") bytes.push(...wholeBytes(told.address ?? 0, piece.size, layout.byteOrder));
    else if (piece.kind === "count") bytes.push(...wholeBytes(told.count ?? 0, piece.size, layout.byteOrder));
    else if (piece.kind === "constant") bytes.push(...piece.bytes);
    else if (piece.kind === "data") bytes.push(...Array.from(told.data ?? []));
    else
      for (const { id, data } of told.each ?? []) {
        bytes.push(id);
        if (piece.withData) bytes.push(...Array.from(data ?? []));
      }
  }
  return Uint8Array.from(bytes);
}

/** Where one piece of the parameters stands in them. */
export interface PiecePart {
  readonly piece: Piece | { readonly kind: "rest" };
  readonly from: number;
  readonly to: number;
}

/** The parameters taken apart by what the operation carries; bytes too many or too few end up in a `rest`. */
export function piecesIn(pieces: readonly Piece[], parameters: ArrayLike<number>): PiecePart[] {
  const parts: PiecePart[] = [];
  let at = 0;
  for (const piece of pieces) {
    const size =
      piece.kind === "address" || piece.kind === "count"
        ? piece.size
        : piece.kind === "constant"
          ? piece.bytes.length
          : parameters.length - at;
    if (at + size > parameters.length) break;
    parts.push({ piece, from: at, to: at + size });
    at += size;
  }
  if (at < parameters.length) parts.push({ piece: { kind: "rest" }, from: at, to: parameters.length });
  return parts;
}

/** What a request was told, read back from its parameters; null where they do not fit the operation. */
export function toldIn(layout: Layout, operation: Operation, parameters: Uint8Array): Told | null {
  const told: { address?: number; count?: number; data?: Uint8Array; each?: { id: number; data?: Uint8Array }[] } = {};
  let reached = 0;
  for (const { piece, from, to } of piecesIn(operation.request, parameters)) {
    if (piece.kind === "rest") return null;
    reached += 1;
    if (piece.kind === "address") told.address = readWhole(parameters, from, piece.size, layout.byteOrder);
    else if (piece.kind === "count") told.count = readWhole(parameters, from, piece.size, layout.byteOrder);
    else if (piece.kind === "data") told.data = parameters.slice(from, to);
    else if (piece.kind === "each") {
      const each = eachIn(parameters.subarray(from, to), piece.withData ? (told.count ?? 0) : 0);
      if (!each) return null;
      told.each = each;
    }
  }
  return reached === operation.request.length ? told : null;
}

function eachIn(bytes: Uint8Array, count: number): { id: number; data: Uint8Array }[] | null {
  if (bytes.length % (count + 1) !== 0) return null;
  const each: { id: number; data: Uint8Array }[] = [];
  for (let at = 0; at < bytes.length; at += count + 1)
    each.push({ id: bytes[at] as number, data: bytes.slice(at + 1, at + 1 + count) });
  return each;
}

/** A packet that writes, and who answers to it. */
export interface WriteRequest {
  readonly bytes: Uint8Array;
  readonly from: readonly number[];
}

/** Writes one register of one device; with `isBrief` without an answer where the family can do without. */
export function writeRequest(
  layout: Layout,
  id: number,
  register: Register,
  raw: number,
  isBrief = false,
): WriteRequest | null {
  const write = operationFor(layout, "write");
  if (!write) return null;
  const told = { address: reachOf(register).address, data: rawBytes(layout, register, raw) };
  const packet = requestOf(layout, write, id, told, isBrief ? false : undefined);
  const from = isAnswered(write, packet) && id !== layout.broadcastId ? [id] : [];
  return { bytes: encodePacket(layout, packet), from };
}

export function readRequest(layout: Layout, id: number, address: number, count: number): Uint8Array | null {
  const read = operationFor(layout, "read");
  return read && encodePacket(layout, requestOf(layout, read, id, { address, count }));
}

export function pingRequest(layout: Layout, id: number): Uint8Array | null {
  const ping = operationFor(layout, "ping");
  return ping && encodePacket(layout, requestOf(layout, ping, id));
}

/** One packet that writes the same registers of many devices; null where the family has none. */
export function groupWriteRequest(
  layout: Layout,
  address: number,
  count: number,
  each: readonly { readonly id: number; readonly data: ArrayLike<number> }[],
): Uint8Array | null {
  const groupWrite = operationFor(layout, "groupWrite");
  if (!groupWrite || layout.broadcastId === null) return null;
  return encodePacket(layout, requestOf(layout, groupWrite, layout.broadcastId, { address, count, each }));
}
