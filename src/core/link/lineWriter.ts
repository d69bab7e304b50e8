import { crc16Next, crc16Start } from "./crc16";

/** The longest line of the protocol, its end included. */
export const longestLine = 1024;

/** What follows the body: `#`, four digits of its check value, the end of the line. */
export const checkLength = 6;

const newline = 0x0a;
const hash = 0x23;
const digitOf = (value: number) => (value < 10 ? 0x30 + value : 0x37 + value);

/**
 * Writes one line of the link protocol into a buffer of its own: body, `#`, check value, end of line.
 * Made for the hot path: a line costs no allocation. The bytes given are valid until the next line is begun.
 */
export class LineWriter {
  readonly #bytes = new Uint8Array(longestLine);
  #length = 0;
  #crc = crc16Start;

  begin(verb: string): this {
    this.#length = 0;
    this.#crc = crc16Start;
    return this.text(verb);
  }

  text(ascii: string): this {
    for (let at = 0; at < ascii.length; at += 1) this.#put(ascii.charCodeAt(at));
    return this;
  }

  /** A whole number of at least 0, in decimal. */
  number(value: number): this {
    let power = 1;
    while (power * 10 <= value) power *= 10;
    for (; power >= 1; power /= 10) this.#put(digitOf(Math.floor(value / power) % 10));
    return this;
  }

  /** How long the line would be if it ended here. */
  get lengthSoFar(): number {
    return this.#length + checkLength;
  }

  /** The whole line as bytes. A line that grew too long is a bug of the caller. */
  end(): Uint8Array {
    if (this.#length > longestLine - checkLength)
      throw new Error("A line of the link is longer than the protocol allows.");
    const crc = this.#crc;
    this.#bytes[this.#length++] = hash;
    for (let shift = 12; shift >= 0; shift -= 4) this.#bytes[this.#length++] = digitOf((crc >> shift) & 15);
    this.#bytes[this.#length++] = newline;
    return this.#bytes.subarray(0, this.#length);
  }

  #put(byte: number): void {
    this.#bytes[this.#length++] = byte;
    this.#crc = crc16Next(this.#crc, byte);
  }
}
