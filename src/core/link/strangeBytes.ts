/** So many bytes that make no line, before anything is said of them. */
const enough = 24;
const kept = 96;

/**
 * What comes back from a port on which no board answers, named for what it most likely is. Heard only while there is no answer: later, noise is noise.
 */
export class StrangeBytes {
  readonly #bytes = new Uint8Array(kept);
  #length = 0;

  hear(bytes: Uint8Array): void {
    for (const byte of bytes) this.#bytes[this.#length++ % kept] = byte;
  }

  forget(): void {
    this.#length = 0;
  }

  /** A sentence on what was heard; on nothing at all as well. Null while there is too little to tell. */
  sentence(label: string, silentForMs: number): string | null {
    const bytes = this.#bytes.subarray(0, Math.min(this.#length, kept));
    if (this.#length === 0)
      return silentForMs < 2000
        ? null
        : `Nobody answers as ${label}. Is the board switched on, its program loaded, and this its port and speed?`;
    if (this.#length < enough) return null;
    const text = String.fromCharCode(...bytes);
    if (/V 2#3005[\r\n]+V 2#3005/.test(text))
      return `What is sent to ${label} comes straight back: a bus adapter that echoes, or two wires that touch. A board answers.`;
    if (text.includes("\xff\xff"))
      return `This sounds like smart servos on a bus, not like ${label}. Is a bus adapter on a board's port?`;
    const printable = bytes.filter((byte) => (byte >= 0x20 && byte < 0x7f) || byte === 0x0a || byte === 0x0d).length;
    return printable / bytes.length > 0.9
      ? `Something writes plain text here and does not answer as ${label}: a board with another program. Load a fitting one.`
      : `What comes from ${label} is no text: most likely the port runs at the wrong speed.`;
  }
}
