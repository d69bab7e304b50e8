import { crc16 } from "./crc16";
import { checkLength, longestLine } from "./lineWriter";
import { isVersion1 } from "./version1";

/** What one line turned out to be: its body, or the reason why it is not believed. */
export type ReadLine =
  | { readonly kind: "body"; readonly body: string }
  /** A plain `name=value`, as anybody's sketch prints it: no check value, so it may only ever be an input. */
  | { readonly kind: "input"; readonly name: string; readonly value: number }
  /** A line of the first version of the protocol. */
  | { readonly kind: "old" }
  | { readonly kind: "bad"; readonly reason: "check" | "form" };

const newline = 0x0a;
const carriageReturn = 0x0d;
const hash = 0x23;

/**
 * Cuts a stream of bytes, arriving in pieces of any size, into lines and believes only those whose check value is
 * right. Noise costs the line it falls in and no other; a line without an end is dropped once it is too long.
 */
export class LineReader {
  // One byte less: the end of the line is not kept.
  readonly #bytes = new Uint8Array(longestLine - 1);
  #length = 0;
  #isTooLong = false;

  /** Takes in bytes and calls `onLine` once for every line that ends in them. Empty lines are passed over. */
  read(bytes: Uint8Array, onLine: (line: ReadLine) => void): void {
    for (const byte of bytes) {
      if (byte === newline) {
        if (this.#isTooLong) onLine({ kind: "bad", reason: "form" });
        else if (this.#length > 0) onLine(lineIn(this.#bytes, this.#length));
        this.#length = 0;
        this.#isTooLong = false;
      } else if (byte !== carriageReturn) {
        if (this.#length < this.#bytes.length) this.#bytes[this.#length++] = byte;
        else this.#isTooLong = true;
      }
    }
  }
}

function lineIn(bytes: Uint8Array, length: number): ReadLine {
  const end = length - checkLength + 1;
  if (end < 1 || bytes[end] !== hash) return isVersion1(bytes, length) ? { kind: "old" } : inputIn(bytes, length);
  let stated = 0;
  for (let at = end + 1; at < length; at += 1) stated = stated * 16 + hexOf(bytes[at] as number);
  if (stated !== crc16(bytes, 0, end)) return { kind: "bad", reason: "check" };
  let body = "";
  for (let at = 0; at < end; at += 1) {
    const byte = bytes[at] as number;
    if (byte < 0x20 || byte > 0x7e) return { kind: "bad", reason: "form" };
    body += String.fromCharCode(byte);
  }
  return { kind: "body", body };
}

const inputPattern = /^([A-Za-z_][\w.-]{0,39})=(-?\d{1,9}(?:\.\d{1,6})?)$/;
const longestInput = 64;

function inputIn(bytes: Uint8Array, length: number): ReadLine {
  const found = length <= longestInput && inputPattern.exec(String.fromCharCode(...bytes.subarray(0, length)));
  return found ? { kind: "input", name: found[1] as string, value: Number(found[2]) } : { kind: "bad", reason: "form" };
}

/** The worth of a hexadecimal digit; NaN for any other character, which then equals no check value. */
function hexOf(byte: number): number {
  if (byte >= 0x30 && byte <= 0x39) return byte - 0x30;
  if (byte >= 0x41 && byte <= 0x46) return byte - 0x37;
  return Number.NaN;
}
