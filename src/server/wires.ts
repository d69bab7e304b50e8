import type { IncomingMessage } from "node:http";
import type { Duplex } from "node:stream";
import { type ServerAsk, type ServerTold, serverAskSchema } from "@core/wire";
import { type WebSocket, WebSocketServer } from "ws";
import { type OpenWire, openWire } from "./ports";

/** A page that says nothing for so long is gone, or stands still: its servos are let go. */
const silentForMs = 2000;
const lookEveryMs = 250;
/** So late a look means that the whole computer stood still. */
const standsStillForMs = 1500;
/** More than any link says in a second: ten times a bus at its highest speed. */
const bytesPerSecondAtMost = 4_000_000;
const messageBytesAtMost = 65_536;
/** So much may wait for a wire that is slower than what it is sent. */
const waitingBytesAtMost = 65_536;
/** So much may wait for a change of speed. */
const queuedBytesAtMost = 262_144;
const wiresAtMost = 32;
/** Also those that have not said yet which wire they want. */
const socketsAtMost = 2 * wiresAtMost;

type Open = Extract<ServerAsk, { kind: "open" }>;

const keyOf = (wire: Open["wire"]) => (wire.kind === "tcp" ? `${wire.host}:${wire.port}` : wire.path);

/** The wires that pages have open through this server: each has one holder, and ends with a release when its page does. */
export class Wires {
  readonly #sockets = new WebSocketServer({ noServer: true, maxPayload: messageBytesAtMost, perMessageDeflate: false });
  readonly #held = new Map<string, HeldWire>();

  /** Takes a socket that was let in. */
  take(request: IncomingMessage, socket: Duplex, head: Buffer): void {
    if (this.#sockets.clients.size >= socketsAtMost) {
      socket.destroy();
      return;
    }
    this.#sockets.handleUpgrade(request, socket, head, (page) => new HeldWire(page, this.#held));
  }

  /** Lets everything go, and closes every wire. */
  async end(): Promise<void> {
    await Promise.all([...this.#held.values()].map((wire) => wire.end("The server was ended.")));
  }
}

class HeldWire {
  readonly #page: WebSocket;
  readonly #held: Map<string, HeldWire>;
  readonly #looking: NodeJS.Timeout;
  #key: string | null = null;
  #wire: OpenWire | null = null;
  #lastWords = Buffer.alloc(0);
  #heardMs = performance.now();
  #lookedMs = performance.now();
  #secondBeganMs = performance.now();
  #bytesThisSecond = 0;
  #queue: Promise<void> = Promise.resolve();
  #waitingBytes = 0;
  #ending: Promise<void> | null = null;

  constructor(page: WebSocket, held: Map<string, HeldWire>) {
    this.#page = page;
    this.#held = held;
    this.#looking = setInterval(() => this.#look(), lookEveryMs);
    page.on("message", (data: Buffer, isBinary) => {
      this.#heardMs = performance.now();
      // One after the other: bytes behind a change of speed wait for it.
      this.#waitingBytes += data.length;
      if (this.#waitingBytes > queuedBytesAtMost)
        void this.end("The wire stands still, and more waits for it than may.");
      this.#queue = this.#queue
        .then(() => this.#take(data, isBinary))
        .catch(() => {})
        .finally(() => {
          this.#waitingBytes -= data.length;
        });
    });
    page.on("error", () => {});
    page.on("close", () => void this.end(null));
  }

  async #take(data: Buffer, isBinary: boolean): Promise<void> {
    // Nothing comes behind the last words.
    if (this.#ending) return;
    if (this.#isFlood(data.length)) await this.end("More was sent than any wire carries.");
    else if (isBinary) this.#pass(data);
    else await this.#hear(data.toString());
  }

  #look(): void {
    const nowMs = performance.now();
    // A computer that was asleep has heard nobody: whoever was there before has the same time again.
    if (nowMs - this.#lookedMs > standsStillForMs) this.#heardMs = nowMs;
    this.#lookedMs = nowMs;
    if (nowMs - this.#heardMs > silentForMs) void this.end("The page was silent for 2 s.");
  }

  #pass(data: Buffer): void {
    if (!this.#wire) return;
    const { outbox } = this.#wire;
    if (outbox.waitingBytes > waitingBytesAtMost)
      void this.end("The wire does not keep up with what it is sent. Is its speed right?");
    else outbox.send(data);
  }

  /** Whether more is said than any wire carries. */
  #isFlood(bytes: number): boolean {
    const nowMs = performance.now();
    if (nowMs - this.#secondBeganMs > 1000) {
      this.#secondBeganMs = nowMs;
      this.#bytesThisSecond = 0;
    }
    this.#bytesThisSecond += bytes;
    return this.#bytesThisSecond > bytesPerSecondAtMost;
  }

  async #hear(text: string): Promise<void> {
    const ask = askIn(text);
    if (!ask) {
      void this.end("The page said what this server does not know.");
      return;
    }
    if (ask.kind === "open") void this.#open(ask);
    else if (ask.kind === "lastWords") this.#lastWords = Buffer.from(ask.lastWords, "hex");
    else if (ask.kind === "speed") await this.#wire?.setSpeed(ask.bitsPerS);
  }

  async #open({ wire, lastWords }: Open): Promise<void> {
    if (this.#key !== null) return this.end("A socket carries one wire.");
    const key = keyOf(wire);
    if (this.#held.has(key)) return this.end(`${key} is held by another board or another window of this bench.`);
    if (this.#held.size >= wiresAtMost) return this.end("So many wires are open already that no more may be.");
    this.#key = key;
    this.#held.set(key, this);
    this.#lastWords = Buffer.from(lastWords, "hex");
    try {
      const open = await openWire(wire);
      // The page may have gone meanwhile.
      if (this.#ending) return open.close();
      this.#wire = open;
      open.stream.on("data", (data: Buffer) => {
        if (this.#page.readyState === this.#page.OPEN) this.#page.send(data, { binary: true });
      });
      const gone = () => void this.end(`${key} is gone: its cable was pulled, or its board was switched off.`);
      open.stream.on("error", gone);
      open.stream.on("close", gone);
      open.stream.on("end", gone);
      this.#tell({ kind: "open" });
    } catch (error) {
      await this.end(error instanceof Error ? error.message : String(error));
    }
  }

  #tell(told: ServerTold): void {
    if (this.#page.readyState === this.#page.OPEN) this.#page.send(JSON.stringify(told));
  }

  /** Ends the wire: the board is told to let go first, as far as it still hears. The sentence is for the page, where one is left. */
  end(sentence: string | null): Promise<void> {
    this.#ending ??= this.#close(sentence);
    return this.#ending;
  }

  async #close(sentence: string | null): Promise<void> {
    clearInterval(this.#looking);
    if (sentence !== null) this.#tell({ kind: "lost", sentence });
    const { stream, outbox } = this.#wire ?? {};
    if (stream?.writable && outbox && this.#lastWords.length > 0)
      await Promise.race([
        outbox.sendLast(this.#lastWords),
        new Promise<void>((done) => setTimeout(done, lastWordsWithinMs)),
      ]);
    this.#wire?.close();
    if (this.#key !== null && this.#held.get(this.#key) === this) this.#held.delete(this.#key);
    this.#page.close();
    setTimeout(() => this.#page.terminate(), lookEveryMs).unref();
  }
}

/** What the system's own buffer holds has to go first: 4 kB at 115 200 bit/s take 0.4 s. */
const lastWordsWithinMs = 1000;

function askIn(text: string): ServerAsk | null {
  try {
    const read = serverAskSchema.safeParse(JSON.parse(text));
    return read.success ? read.data : null;
  } catch {
    return null;
  }
}
