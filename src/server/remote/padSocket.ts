import type { BookedControl } from "@core/pads";
import { Bucket, ClockSync, mayUse, type PadAsk, type PadTold, padAskSchema } from "@core/remote";
import type { WebSocket } from "ws";
import type { Session } from "./sessions";

type Hands = Extract<PadAsk, { kind: "hands" }>;

/** More than a display shows, and a few that lay on the way. */
const messagesPerS = 90;
const messagesAtOnce = 60;
/** What goes on past that is no thumb. */
const refusedAtMost = 200;
const oddAtMost = 5;
/** So long who was cut off is not let in again. */
const barredForMs = 10_000;
/** A release is heard as often as a fist can ask for it. */
const releasesPerS = 10;
/** A pad that is so far behind in listening is shown nothing until it has caught up. */
const waitingBytesAtMost = 65_536;
const deafBytesAtMost = 1_000_000;
const askTimeEveryMs = 1000;
const askTimeSoonMs = 60;
const firstAsks = 5;
const goneAfterMs = 6000;

/** What a pad's connection hands on, once it has passed the door. */
export interface PadEars {
  readonly nowMs: () => number;
  /** Thumbs that may do what they do; `sentMs` is when they did, by this server's clock. */
  readonly onHands: (hands: Hands, sentMs: number, toOurs: (padMs: number) => number) => void;
  readonly onRelease: (times: number) => void;
  /** A thumb was put on a control. */
  readonly onPressed: (control: BookedControl) => void;
  readonly onRefused: (sentence: string) => void;
  readonly onClosed: () => void;
  readonly controlOf: (id: string) => (BookedControl & { readonly padId: string }) | undefined;
}

/** One pad's connection. Size, rate, shape and rights are looked at here, in this order, before anything else sees what it says. */
export class PadSocket {
  readonly session: Session;
  readonly #socket: WebSocket;
  readonly #ears: PadEars;
  readonly #rate = new Bucket(messagesPerS, messagesAtOnce);
  readonly #releases = new Bucket(releasesPerS, releasesPerS);
  readonly #clock = new ClockSync();
  readonly #downs = new Map<string, number>();
  #asking: NodeJS.Timeout;
  #asks = 0;
  #askedMs = new Set<number>();
  #heardMs: number;
  #refused = 0;
  #odd = 0;
  #isOver = false;

  constructor(socket: WebSocket, session: Session, ears: PadEars) {
    this.#socket = socket;
    this.session = session;
    this.#ears = ears;
    this.#heardMs = ears.nowMs();
    socket.on("message", (data: Buffer, isBinary) => this.#hear(data, isBinary));
    socket.on("error", () => {});
    socket.on("close", () => this.#over());
    this.#asking = setTimeout(() => this.#ask(), 0);
  }

  tell(told: PadTold): void {
    this.tellText(JSON.stringify(told));
  }

  /** The same words go to many pads: they are spelled once. */
  tellText(text: string, isDroppable = false): void {
    if (this.#socket.readyState !== this.#socket.OPEN) return;
    const waiting = this.#socket.bufferedAmount;
    if (isDroppable && waiting > waitingBytesAtMost) return;
    // Who only talks and never listens fills the memory of this computer.
    if (waiting > deafBytesAtMost) {
      this.#cut("It listened to nothing.");
      return;
    }
    this.#socket.send(text);
  }

  end(sentence: string): void {
    this.tell({ kind: "out", sentence });
    this.#socket.close(4001);
    setTimeout(() => this.#socket.terminate(), 500).unref();
    this.#over();
  }

  #over(): void {
    if (this.#isOver) return;
    this.#isOver = true;
    clearTimeout(this.#asking);
    this.#ears.onClosed();
  }

  #cut(sentence: string): void {
    this.session.barredUntilMs = this.#ears.nowMs() + barredForMs;
    this.#ears.onRefused(sentence);
    this.#socket.terminate();
    this.#over();
  }

  #ask(): void {
    const nowMs = this.#ears.nowMs();
    if (nowMs - this.#heardMs > goneAfterMs) {
      this.#socket.terminate();
      this.#over();
      return;
    }
    this.#asks += 1;
    this.#askedMs.add(nowMs);
    if (this.#askedMs.size > firstAsks) this.#askedMs = new Set([...this.#askedMs].slice(-firstAsks));
    this.tell({ kind: "time", askedMs: nowMs });
    this.#asking = setTimeout(() => this.#ask(), this.#asks < firstAsks ? askTimeSoonMs : askTimeEveryMs);
  }

  #hear(data: Buffer, isBinary: boolean): void {
    if (this.#isOver) return;
    const nowMs = this.#ears.nowMs();
    // A release is never lost in a crowd of other words.
    if (!this.#rate.take(nowMs) && !isReleaseLike(data)) {
      this.#refused += 1;
      if (this.#refused > refusedAtMost) this.#cut("It said more than any thumb does.");
      return;
    }
    this.#refused = Math.max(0, this.#refused - 1);
    const ask = isBinary ? null : askIn(data);
    if (!ask) {
      this.#odd += 1;
      this.#ears.onRefused("It said what no pad says.");
      if (this.#odd > oddAtMost) this.#cut("It went on saying what no pad says.");
      return;
    }
    this.#heardMs = nowMs;
    this.session.seenMs = nowMs;
    if (ask.kind === "time") {
      // Only what was asked is answered, once.
      if (this.#askedMs.delete(ask.askedMs)) this.#clock.add(ask.askedMs, ask.atMs, nowMs);
    } else if (ask.kind === "release") {
      if (this.#releases.take(nowMs)) this.#ears.onRelease(ask.times);
    } else this.#hearHands(ask, nowMs);
  }

  #hearHands(ask: Hands, nowMs: number): void {
    // Before anything is known of its clock nobody can tell how old a message is.
    if (!this.#clock.isKnown) return;
    const { rights } = this.session.device;
    const hands = ask.hands.filter((hand) => {
      const booked = this.#ears.controlOf(hand.id);
      if (!booked) return false;
      const isPressed = hand.downs > (this.#downs.get(hand.id) ?? 0);
      this.#downs.set(hand.id, hand.downs);
      const may = (rights.padId === null || rights.padId === booked.padId) && mayUse(rights, booked.reaches);
      if (isPressed && may) this.#ears.onPressed(booked);
      if (isPressed && !may) {
        this.#ears.onRefused(`It may not move “${booked.label}”.`);
        this.tell({ kind: "told", sentence: `This pad may only look at “${booked.label}”.` });
      }
      return may;
    });
    const sentMs = Math.min(this.#clock.toOurs(ask.atMs), nowMs);
    this.#ears.onHands({ ...ask, hands }, sentMs, (padMs) => Math.min(this.#clock.toOurs(padMs), nowMs));
  }
}

const releaseBytesAtMost = 60;
const isReleaseLike = (data: Buffer) => data.length < releaseBytesAtMost && data.includes('"release"');

function askIn(data: Buffer): PadAsk | null {
  try {
    const read = padAskSchema.safeParse(JSON.parse(data.toString()));
    return read.success ? read.data : null;
  } catch {
    return null;
  }
}
