/**
 * A board written from `docs/link-protocol.md` alone, and by another way than the simulated one: it keeps text and tables instead of typed arrays, and reads
 * a line with patterns. It says what each channel puts out after each line, so that a fuzzer can hold that against the limits, and answers, so that its
 * answers can be held against those of the simulated board.
 */
export class PaperBoard {
  /** What each channel is to put out from its next frame on. */
  outputs = new Map<number, number>();
  /** Lines that it had to refuse, but for those that came to a board which wants to be greeted, or too late. */
  badLines = 0;
  /** Frames that went past what it was told to hold its channels to. */
  limitRefusals = 0;
  answers: string[] = [];
  #rest = "";
  #isGreeted = false;
  #last = 0;
  #told = 0;
  #inForce = 0;
  #limits = new Map<number, { lowest: number; highest: number; step: number }>();
  #fedMs = 0;
  #hasActed = false;
  #watchdog: { ms: number; isRelease: boolean };
  readonly #paper: Paper;

  constructor(paper: Paper) {
    this.#paper = paper;
    this.#watchdog = { ms: paper.silence.afterMs, isRelease: paper.silence.action === "release" };
  }

  /** Takes bytes at a moment; calls back after each line that changed what the channels put out. */
  hear(bytes: Uint8Array, nowMs: number, onChange: (before: ReadonlyMap<number, number>) => void = () => {}): void {
    this.pass(nowMs);
    const lines = (this.#rest + String.fromCharCode(...bytes)).replaceAll("\r", "").split("\n");
    this.#rest = lines.pop() ?? "";
    for (const line of lines.filter((one) => one !== "")) {
      const before = this.outputs;
      if (this.#take(line, nowMs)) onChange(before);
    }
  }

  /** The watchdog looks at the clock. */
  pass(nowMs: number): void {
    if (!this.#isGreeted || this.#hasActed || nowMs - this.#fedMs <= this.#watchdog.ms) return;
    this.#hasActed = true;
    this.#say(`T ${this.#watchdog.isRelease ? "release" : "hold"}`);
    if (!this.#watchdog.isRelease) return;
    this.outputs = new Map();
    this.#inForce = this.#told;
    this.#isGreeted = false;
  }

  /** All groups of channels have begun another frame. */
  beginFrames(): void {
    this.#inForce = this.#told;
  }

  #say(body: string): void {
    this.answers.push(`${body}#${checkOf(body)}`);
  }

  #take(line: string, nowMs: number): boolean {
    const [sequence, refusal] = this.#judge(line);
    if (refusal !== null) {
      if (refusal === "limit") this.limitRefusals += 1;
      else if (refusal !== "order" && refusal !== "stale") this.badLines += 1;
      this.#say(`E ${sequence} ${refusal}`);
      return false;
    }
    const [verb, ...words] = line.slice(0, -5).split(" ");
    this.#fedMs = nowMs;
    this.#hasActed = false;
    if (verb === "V") {
      this.#isGreeted = true;
      this.#last = this.#told = this.#inForce = 0;
      this.#limits = new Map();
      this.#say(`V 2 ${this.#paper.hello} ${rangesOf([...this.outputs.keys()])}`);
      return false;
    }
    words.shift();
    if (this.#last === 0 || isAhead(sequence, this.#last)) this.#last = sequence;
    if (verb === "W") this.#watchdog = { ms: Number(words[0]), isRelease: words[1] === "release" };
    if (verb === "L")
      for (const [channel = 0, lowest = 0, highest = 0, step = 0] of words.map((word) => word.split(":").map(Number)))
        this.#limits.set(channel, { lowest, highest, step });
    if (verb === "S" || verb === "R") this.#told = sequence;
    if (verb === "S") this.outputs = new Map(words.map((word) => word.split(":").map(Number) as [number, number]));
    if (verb === "R") {
      this.outputs = new Map();
      this.#inForce = sequence;
    }
    this.#say(`A ${sequence} ${this.#inForce}`);
    return verb === "S" || verb === "R";
  }

  /** The number of a line, 0 where it cannot be read, and why it is refused; null where it is not. */
  #judge(line: string): [number, string | null] {
    const body = line.slice(0, -5);
    if (line.length > 1023) return [0, "form"];
    if (line.at(-5) !== "#" || body === "") return [0, isOld(line) ? "check" : "form"];
    if (line.slice(-4) !== checkOf(body)) return [0, "check"];
    if (/^V (0|[1-9]\d{0,9})$/.test(body) && isWhole(body.slice(2))) return [0, null];
    const form = /^([WLSR]) ([1-9]\d{0,4})((?: [^ ]+)*)$/.exec(body);
    const sequence = Number(form?.[2] ?? 0);
    if (!form || sequence > 65_535) return [0, "form"];
    const [, verb, , rest = ""] = form;
    const words = rest === "" ? [] : rest.slice(1).split(" ");
    if (verb === "R") return words.length === 0 ? [sequence, null] : [0, "form"];
    const numbers = words.map((word) => word.split(":"));
    const isDoubled = new Set(numbers.map(([channel]) => channel)).size < numbers.length;
    const width = verb === "L" ? 4 : 2;
    const isForm =
      verb === "W"
        ? words.length === 2 && isWhole(words[0] ?? "") && /^(release|hold)$/.test(words[1] ?? "")
        : numbers.every((one) => one.length === width && one.every(isWhole)) &&
          !isDoubled &&
          (verb === "S" || words.length > 0);
    if (!isForm) return [0, "form"];
    if (!this.#isGreeted) return [sequence, "order"];
    if (this.#last !== 0 && !isAhead(sequence, this.#last)) return [sequence, "stale"];
    if (verb === "W") {
      const ms = Number(words[0]);
      return [sequence, ms >= 100 && ms <= 60_000 ? null : "range"];
    }
    const read = numbers.map((one) => one.map(Number));
    const isIn = ([channel = 0, low = 0, high = low]: number[]) => {
      const group = this.#paper.groups.find(({ first, last }) => channel >= first && channel <= last);
      return group !== undefined && low <= high && low >= group.lowest && high <= group.highest;
    };
    if (!read.every((one) => isIn(one.slice(0, width === 4 ? 3 : 2)))) return [sequence, "range"];
    if (verb === "L") return [sequence, null];
    const isHeldTo = ([channel = 0, count = 0]: number[]) => {
      const limits = this.#limits.get(channel);
      const stands = this.outputs.get(channel);
      if (!limits || (stands !== undefined && Math.abs(stands - count) > limits.step)) return false;
      const isInside = count >= limits.lowest && count <= limits.highest;
      const comesIn =
        stands !== undefined &&
        ((stands < limits.lowest && count >= stands && count < limits.lowest) ||
          (stands > limits.highest && count <= stands && count > limits.highest));
      return isInside || comesIn;
    };
    return [sequence, read.every(isHeldTo) ? null : "limit"];
  }
}

/** What stands on the paper of one board. */
export interface Paper {
  /** Its greeting, between the version and the channels that have a signal. */
  readonly hello: string;
  readonly groups: readonly {
    readonly first: number;
    readonly last: number;
    readonly lowest: number;
    readonly highest: number;
  }[];
  readonly silence: { readonly afterMs: number; readonly action: string };
}

/** Reads the paper off a greeting: `name unit channels longest groups`. */
export function paperOf(greeting: string, silence: Paper["silence"]): Paper {
  const words = greeting.replace(/#.*$/, "").split(" ");
  const groups = (words[6] ?? "").split(",").map((word) => {
    const [range = "", , lowest, , highest] = word.split(":");
    const [first = 0, last = first] = range.split("-").map(Number);
    return { first, last, lowest: Number(lowest), highest: Number(highest) };
  });
  return { hello: words.slice(2, 7).join(" "), groups, silence };
}

const isWhole = (text: string) => /^(0|[1-9]\d{0,9})$/.test(text) && Number(text) < 2 ** 32;

const isAhead = (sequence: number, last: number) => {
  const ahead = (sequence - last + 65_535) % 65_535;
  return ahead >= 1 && ahead <= 32_767;
};

function rangesOf(channels: readonly number[]): string {
  const sorted = channels.toSorted((a, b) => a - b);
  let text = "";
  for (let at = 0; at < sorted.length; ) {
    let end = at;
    while (sorted[end + 1] === (sorted[end] as number) + 1) end += 1;
    text += `${text && ","}${sorted[at]}${end > at ? `-${sorted[end]}` : ""}`;
    at = end + 1;
  }
  return text || "-";
}

/** CRC-16, polynomial 0x1021 from 0xFFFF, bit by bit over the characters. */
export function checkOf(body: string): string {
  let crc = 0xffff;
  for (const character of body)
    for (let bit = 7; bit >= 0; bit -= 1) {
      const falls = ((crc >> 15) ^ (character.charCodeAt(0) >> bit)) & 1;
      crc = ((crc << 1) & 0xffff) ^ (falls ? 0x1021 : 0);
    }
  return crc.toString(16).toUpperCase().padStart(4, "0");
}

/** Whether a line is right by the rules of version 1, CRC-8 with polynomial 0x07. */
function isOld(line: string): boolean {
  let crc = 0;
  for (const character of line.slice(0, -3))
    for (let bit = 7; bit >= 0; bit -= 1) {
      const falls = ((crc >> 7) ^ (character.charCodeAt(0) >> bit)) & 1;
      crc = ((crc << 1) & 0xff) ^ (falls ? 0x07 : 0);
    }
  return line.length > 3 && line.slice(-3) === `#${crc.toString(16).toUpperCase().padStart(2, "0")}`;
}
