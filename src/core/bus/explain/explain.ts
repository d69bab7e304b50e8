import type { Field, Layout, Operation, Piece } from "@core/project";
import { hexByte, hexBytes, readWhole } from "../packets/bytes";
import { type Dissection, dissect } from "../packets/dissect";
import { askMask, type Direction, fieldsOf, headerOf, lengthBeyond } from "../packets/packet";
import { rawIn, registerAt, wordsOf } from "../registers/registers";
import { type PiecePart, piecesIn, toldIn } from "../registers/requests";
import { errorsIn } from "../registers/troubles";

/** Some neighbouring bytes of a packet and what they say. */
export interface ByteSpan {
  /** On the wire, counted from the first byte given. */
  readonly from: number;
  readonly to: number;
  readonly field: Field | "beyond";
  readonly label: string;
  readonly meaning: string;
  readonly isWrong: boolean;
}

export interface Explained {
  readonly spans: readonly ByteSpan[];
  readonly dissection: Dissection;
  /** The whole packet in one sentence, or what is wrong with it. */
  readonly sentence: string;
}

/** What the reader knows beside the bytes: a reply does not say what was asked. */
export interface AskedPacket {
  readonly operation: number;
  readonly address: number | null;
}

export const fieldNames: Readonly<Record<Field, string>> = {
  header: "header",
  id: "id",
  length: "length",
  operation: "operation",
  error: "error",
  parameters: "parameters",
  check: "check",
};

/** What an operation of a request was about, so that its reply can be understood. */
export function askedBy(layout: Layout, bytes: ArrayLike<number>): AskedPacket | null {
  const { packet } = dissect(layout, "request", bytes);
  if (!packet) return null;
  const operation = layout.operations.find(({ code }) => code === packet.operation);
  const told = operation && toldIn(layout, operation, packet.parameters);
  return { operation: packet.operation, address: told?.address ?? null };
}

/** Every byte of one packet in words. Works on broken packets as far as they can be read. */
export function explain(
  layout: Layout,
  direction: Direction,
  bytes: ArrayLike<number>,
  asked: AskedPacket | null = null,
): Explained {
  const dissection = dissect(layout, direction, bytes);
  const { parts, plain, wireAt } = dissection;
  const code = operationCodeIn(layout, direction, dissection) ?? asked?.operation ?? -1;
  const operation = layout.operations.find((one) => one.code === code) ?? null;
  const wire = (at: number) => wireAt[Math.min(at, wireAt.length - 1)] as number;
  const spans: ByteSpan[] = [];
  for (const { field, from, to } of parts) {
    const value = plain.slice(from, to);
    if (field === "parameters") {
      spans.push(...parameterSpans(layout, direction, operation, value, asked, (at) => wire(from + at)));
      continue;
    }
    spans.push({
      from: wire(from),
      to: wire(to),
      field,
      label: fieldNames[field],
      ...meaningOf(layout, direction, field, value, operation, dissection),
    });
  }
  const end = spans.at(-1)?.to ?? 0;
  if (end < bytes.length)
    spans.push({
      from: end,
      to: bytes.length,
      field: "beyond",
      label: dissection.status === "whole" ? "beyond" : "not read",
      meaning:
        dissection.status === "whole"
          ? "The packet ended before these bytes."
          : "What comes before is not right, so nobody knows what these say.",
      isWrong: true,
    });
  return { spans, dissection, sentence: sentenceOf(layout, direction, dissection, operation, bytes.length) };
}

function operationCodeIn(layout: Layout, direction: Direction, { parts, plain, packet }: Dissection): number | null {
  if (packet?.direction === "reply" && packet.operation < 0) return null;
  const part = parts.find(({ field }) => field === "operation");
  const byte = part && plain[part.from];
  if (byte === undefined) return null;
  return direction === "request" ? byte & ~askMask(layout) : byte;
}

function meaningOf(
  layout: Layout,
  direction: Direction,
  field: Field,
  value: readonly number[],
  operation: Operation | null,
  dissection: Dissection,
): { meaning: string; isWrong: boolean } {
  const right = (meaning: string) => ({ meaning, isWrong: false });
  const byte = value[0] as number;
  switch (field) {
    case "header":
      return right(`Here a ${direction} begins.`);
    case "id":
      return right(
        byte === layout.broadcastId
          ? "To all devices at once; none of them answers."
          : direction === "request"
            ? `To device ${byte}.`
            : `From device ${byte}.`,
      );
    case "operation":
      if (direction === "reply" && layout.replyCode !== null) return right("This is a reply.");
      return operation
        ? right(`${hexByte(byte)}: ${operation.label}${askWords(layout, direction, operation, byte)}.`)
        : { meaning: `${layout.name} has no operation ${hexByte(byte)}.`, isWrong: true };
    case "error": {
      const said = errorsIn(layout, byte);
      return { meaning: said.length === 0 ? "No trouble." : `Trouble: ${said.join(", ")}.`, isWrong: byte !== 0 };
    }
    case "length":
      return {
        meaning: `${dissection.statedLength} bytes: ${countedWords(layout, direction)}.`,
        isWrong: dissection.fault === "length",
      };
    case "check": {
      const isWrong = dissection.statedCheck !== dissection.expectedCheck;
      const digits = value.length * 2;
      const hex = (check: number) => check.toString(16).toUpperCase().padStart(digits, "0");
      return {
        meaning: isWrong
          ? `It says ${hex(dissection.statedCheck)}; the bytes come to ${hex(dissection.expectedCheck)}. A device keeps silent about such a packet.`
          : `${hex(dissection.statedCheck)}, as the bytes come to.`,
        isWrong,
      };
    }
    case "parameters":
      return right("");
  }
}

/** Whether a request asks for its answer, where the family answers only when asked. */
function askWords(layout: Layout, direction: Direction, { answers }: Operation, byte: number): string {
  if (direction === "reply" || answers === "always") return "";
  return byte & askMask(layout) ? ", and an answer, please" : ", without an answer";
}

/** What the length counts, in words. */
export function countedWords(layout: Layout, direction: Direction): string {
  const counted = fieldsOf(layout, direction).filter((field) => layout.length.counts.includes(field));
  const { plus } = layout.length;
  const more = plus === 0 ? "" : plus > 0 ? `, and ${plus}` : `, less ${-plus}`;
  return `${counted.map((field) => fieldNames[field]).join(", ")}${more}`;
}

function parameterSpans(
  layout: Layout,
  direction: Direction,
  operation: Operation | null,
  value: readonly number[],
  asked: AskedPacket | null,
  wire: (at: number) => number,
): ByteSpan[] {
  const span = (from: number, to: number, label: string, meaning: string, isWrong = false): ByteSpan => ({
    from: wire(from),
    to: wire(to),
    field: "parameters",
    label,
    meaning,
    isWrong,
  });
  const pieces: readonly Piece[] | null = operation && (direction === "request" ? operation.request : operation.reply);
  if (!pieces) return value.length > 0 ? [span(0, value.length, "parameters", hexBytes(value))] : [];
  const parts = piecesIn(pieces, value);
  const numberIn = (kind: Piece["kind"]) => {
    const part = parts.find(({ piece }) => piece.kind === kind);
    return part ? readWhole(value, part.from, part.to - part.from, layout.byteOrder) : null;
  };
  const address = numberIn("address") ?? (direction === "reply" ? (asked?.address ?? null) : null);
  return parts.flatMap((part) => pieceSpans(layout, part, value, address, numberIn("count") ?? 0, span));
}

type SpanMaker = (from: number, to: number, label: string, meaning: string, isWrong?: boolean) => ByteSpan;

function pieceSpans(
  layout: Layout,
  { piece, from, to }: PiecePart,
  value: readonly number[],
  address: number | null,
  count: number,
  span: SpanMaker,
): ByteSpan[] {
  switch (piece.kind) {
    case "address": {
      const register = address === null ? null : registerAt(layout, address);
      return [
        span(
          from,
          to,
          "address",
          register ? `${address}: ${register.label}.` : `${address}: no register begins here.`,
          !register,
        ),
      ];
    }
    case "count":
      return [span(from, to, "count", `${count} bytes.`)];
    case "constant":
      return [span(from, to, "fixed", "Always the same.")];
    case "data":
      return dataSpans(layout, value, from, to, address, span);
    case "each": {
      const size = piece.withData ? count + 1 : 1;
      const spans: ByteSpan[] = [];
      for (let at = from; at + size <= to; at += size) {
        spans.push(span(at, at + 1, "id", `Device ${value[at]}.`));
        if (size > 1) spans.push(...dataSpans(layout, value, at + 1, at + size, address, span));
      }
      const left = (to - from) % size;
      if (left > 0) spans.push(span(to - left, to, "left over", "Not enough bytes for one more device.", true));
      return spans;
    }
    case "rest":
      return [span(from, to, "parameters", "The operation carries nothing here.", true)];
  }
}

/** Bytes of registers from an address on, register by register. */
function dataSpans(
  layout: Layout,
  value: readonly number[],
  from: number,
  to: number,
  address: number | null,
  span: SpanMaker,
): ByteSpan[] {
  if (address === null) return [span(from, to, "data", hexBytes(value.slice(from, to)))];
  const spans: ByteSpan[] = [];
  for (let at = from; at < to; ) {
    const register = registerAt(layout, address + at - from);
    if (register && at + register.size <= to) {
      const raw = rawIn(layout, register, value, at);
      const words = wordsOf(register, raw);
      spans.push(span(at, at + register.size, register.label, words === String(raw) ? words : `${raw}: ${words}`));
      at += register.size;
    } else {
      spans.push(span(at, at + 1, "data", `At address ${address + at - from}: ${value[at]}.`));
      at += 1;
    }
  }
  return spans;
}

function sentenceOf(
  layout: Layout,
  direction: Direction,
  found: Dissection,
  operation: Operation | null,
  given: number,
): string {
  const header = hexBytes(headerOf(layout, direction));
  if (found.status === "short")
    return given === 0
      ? "There are no bytes yet."
      : `The packet is not whole: ${found.parts.length < 2 ? "it ends within its header" : "more bytes belong to it"}.`;
  switch (found.fault) {
    case "header":
      return `A ${direction} of ${layout.name} begins with ${header}.`;
    case "length":
      return `The length says ${found.statedLength}, and at least ${lengthBeyond(layout, direction)} would be right: it counts ${countedWords(layout, direction)}.`;
    case "check":
      return "The check is wrong, so a device would say nothing at all.";
    case "stuffing":
      return "A byte stands here that only a header may have, or a stuffed byte is missing.";
    case null: {
      const { packet } = found;
      const who = packet?.id === layout.broadcastId ? "all devices" : `device ${packet?.id}`;
      const what = operation?.label ?? "an operation nobody knows";
      return direction === "request"
        ? `A request to ${who}: ${what}.`
        : `A reply of ${who}${packet?.error ? `, which tells of trouble: ${errorsIn(layout, packet.error).join(", ")}` : ""}.`;
    }
  }
}
