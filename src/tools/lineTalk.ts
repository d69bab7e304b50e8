import { type BoardLine, crc16, type Greeting, readBoardLine } from "@core/link";
import type { ByteStream } from "../worker/wires";

const bytesOf = (text: string) => Uint8Array.from(text, (character) => character.charCodeAt(0));

/** The check value of a body, as four digits. */
export function checkOf(body: string): string {
  const bytes = bytesOf(body);
  return crc16(bytes, 0, bytes.length).toString(16).toUpperCase().padStart(4, "0");
}

/** A board that does not answer within this does not answer. */
const answerWithinMs = 1200;

/** Lines to a board and its answers, one at a time, for whoever looks at what it does. */
export class LineTalk {
  readonly #stream: ByteStream;
  #rest = "";
  #lines: string[] = [];
  #sequence = 0;
  #isOver = false;

  constructor(stream: ByteStream) {
    this.#stream = stream;
    stream.onBytes = (bytes) => {
      const parts = (this.#rest + String.fromCharCode(...bytes)).replaceAll("\r", "").split("\n");
      this.#rest = parts.pop() ?? "";
      // Plain inputs and readings may come at any time; they are no answers.
      this.#lines.push(...parts.filter((line) => line.includes("#") && !line.startsWith("P ")));
    };
  }

  /** The next number of a line. */
  next(): number {
    this.#sequence = (this.#sequence % 65_535) + 1;
    return this.#sequence;
  }

  /** Sends bytes as they are. */
  raw(text: string): void {
    if (!this.#isOver) this.#stream.write(bytesOf(text));
  }

  /** Sends a body with its right check value. */
  say(body: string): void {
    this.raw(`${body}#${checkOf(body)}\n`);
  }

  /** Sends a body behind which nothing is said any more, whoever wants to. */
  sayLast(body: string): void {
    this.say(body);
    this.#isOver = true;
  }

  /** The next line that the board says; null for silence. */
  async hear(withinMs = answerWithinMs): Promise<string | null> {
    for (const endMs = performance.now() + withinMs; ; ) {
      const line = this.#lines.shift();
      if (line !== undefined) return bodyOf(line);
      if (performance.now() > endMs) return null;
      await sleep(2);
    }
  }

  /** Sends a body, and gives what the board answers. */
  async ask(body: string): Promise<string | null> {
    this.#lines = [];
    this.say(body);
    return this.hear();
  }

  /** Greets; null where no greeting comes that the page would call one. */
  async greet(version = 2): Promise<Greeting | null> {
    const answer = await this.ask(`V ${version}`);
    const line: BoardLine | null = answer === null ? null : readBoardLine(answer);
    this.#sequence = 0;
    return line?.kind === "greeting" ? line.greeting : null;
  }

  /** Everything that is said in a while. */
  async listen(forMs: number): Promise<readonly string[]> {
    this.#lines = [];
    await sleep(forMs);
    return this.#lines.map(bodyOf);
  }
}

/** The body of a line; “(a wrong check value)” with one that is wrong, which no rule wants to hear. */
function bodyOf(line: string): string {
  const body = line.slice(0, -5);
  return line.slice(-5) === `#${checkOf(body)}` ? body : `(a wrong check value) ${line}`;
}

export const sleep = (ms: number) => new Promise((done) => setTimeout(done, ms));
