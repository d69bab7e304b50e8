/**
 * A board written from `docs/link-protocol.md` alone, and by another way than the simulated one: it keeps text and tables instead of typed arrays. It says
 * what each channel puts out after each line, so that a fuzzer can hold that against the limits.
 */
export class PaperBoard {
  /** What each channel puts out. */
  outputs = new Map<number, number>();
  /** Bytes that were no line of the protocol. */
  badLines = 0;
  #rest = "";
  #isGreeted = false;
  #last = 0;
  #fedMs = 0;
  #watchdog: { ms: number; isRelease: boolean };
  readonly #channels: number;
  readonly #highest: number;

  constructor(channels: number, highest: number, silence: { afterMs: number; action: string }) {
    this.#channels = channels;
    this.#highest = highest;
    this.#watchdog = { ms: silence.afterMs, isRelease: silence.action === "release" };
  }

  /** Takes bytes at a moment; calls back after each line that changed what the channels put out. */
  hear(bytes: Uint8Array, nowMs: number, onChange: (before: ReadonlyMap<number, number>) => void): void {
    this.pass(nowMs);
    const lines = (this.#rest + String.fromCharCode(...bytes)).split("\n");
    this.#rest = lines.pop() ?? "";
    for (const line of lines) {
      const before = this.outputs;
      if (this.#obey(line, nowMs)) onChange(before);
    }
  }

  /** The watchdog looks at the clock. */
  pass(nowMs: number): void {
    if (!this.#isGreeted || !this.#watchdog.isRelease || nowMs - this.#fedMs <= this.#watchdog.ms) return;
    this.outputs = new Map();
    this.#isGreeted = false;
  }

  #obey(line: string, nowMs: number): boolean {
    const [body = "", check = ""] = line.split("#");
    if (check !== checkOf(body)) {
      this.badLines += 1;
      return false;
    }
    const [verb, ...words] = body.split(" ");
    if (verb === "V") {
      this.#isGreeted = true;
      this.#last = 0;
      this.#fedMs = nowMs;
      return false;
    }
    const sequence = Number(words.shift());
    const ahead = (((sequence - this.#last) % 65_535) + 65_535) % 65_535;
    const isNew = this.#last === 0 || (ahead >= 1 && ahead <= 32_767);
    if (verb === "R") {
      this.#fedMs = nowMs;
      if (isNew) this.#last = sequence;
      this.outputs = new Map();
      return true;
    }
    if (!this.#isGreeted || !isNew) return false;
    if (verb === "W") this.#watchdog = { ms: Number(words[0]), isRelease: words[1] === "release" };
    const pairs = verb === "S" ? words.map((word) => word.split(":").map(Number) as [number, number]) : [];
    const isGood = pairs.every(([channel, count]) => channel < this.#channels && count <= this.#highest);
    if (!isGood) {
      this.badLines += 1;
      return false;
    }
    this.#last = sequence;
    this.#fedMs = nowMs;
    if (verb !== "S") return false;
    this.outputs = new Map(pairs);
    return true;
  }
}

/** CRC-8, polynomial 0x07, bit by bit over the characters. */
function checkOf(body: string): string {
  let crc = 0;
  for (const character of body)
    for (let bit = 7; bit >= 0; bit -= 1) {
      const falls = ((crc >> 7) ^ (character.charCodeAt(0) >> bit)) & 1;
      crc = ((crc << 1) & 0xff) ^ (falls ? 0x07 : 0);
    }
  return crc.toString(16).toUpperCase().padStart(2, "0");
}
