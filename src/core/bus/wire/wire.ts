import type { Layout } from "@core/project";
import type { Packet } from "../packets/packet";
import { type Heard, PacketReader } from "../packets/packetReader";
import { wireUs } from "./wireTime";

/** What came back for a request. */
export interface WireAnswer {
  /** Replies by devices that were asked, in the order they came. */
  readonly replies: readonly { readonly packet: Packet; readonly bytes: Uint8Array; readonly atUs: number }[];
  /** Whatever else was heard meanwhile. */
  readonly noise: readonly Uint8Array[];
  /** Who was heard besides: ids of whole replies to something that had been given up. */
  readonly late: readonly number[];
  readonly hadBadCheck: boolean;
  readonly sentUs: number;
  /** How often it was sent. */
  readonly times: number;
}

/** One exchange: a request, and the replies it waits for. */
export interface Exchange {
  readonly layout: Layout;
  readonly bytes: Uint8Array;
  /** Who is expected to answer; empty where nobody does. */
  readonly from: readonly number[];
  /** How many parameters a reply must have; null for any. What does not fit is a late answer to something else. */
  readonly replyBytes: number | null;
  /** Listens until the time is up, whoever has answered: two devices with one id answer both. */
  readonly listensOut: boolean;
  /** How often it is sent at most. */
  readonly tries: number;
  /** Smaller goes first. */
  readonly rank: number;
  readonly onDone: (answer: WireAnswer) => void;
}

/** Smaller goes first on the wire. */
export const rank = { torque: 0, goals: 1, person: 2, senses: 3 } as const;

/** What went over the wire, for a person who watches. */
export interface WireEvent {
  readonly kind: "sent" | "heard" | "noise" | "silence" | "late";
  readonly atUs: number;
  readonly bytes: Uint8Array;
  readonly layoutId: string;
  /** A person asked for it; else it belongs to the frames and the watching that go on all the time. */
  readonly isAsked: boolean;
}

/** Between two packets the wire rests a moment, so that devices know one from the next. */
export const gapUs = 60;
/** A device that has not begun to answer by then will not. */
export const replyWaitUs = 3500;
/** A retry waits until a late answer to the first has come and gone. */
const againUs = 1500;

/** An adapter may hold bytes back; until its first answers have told for how long, it is given so much time. */
const holdsBackAtFirstUs = 20_000;
/** Whatever was measured: a computer that does much besides hears an answer some milliseconds late now and then. */
const holdsBackAtLeastUs = 8000;
/** What takes longer than this is not waited for: the frames of all others would have to. */
const holdsBackAtMostUs = 60_000;
const answersMeasured = 32;
/**
 * A wake that comes later than this after an answer was due: the computer stood still. What came in meanwhile lies in its buffers and is handed over in a moment: so long is
 * waited for it, once.
 */
const stoodStillUs = 2000;
const graceUs = 3000;

/** How much later than on a bare wire answers come through an adapter: the longest of the last ones, with some room. */
class HeldBack {
  readonly #lastUs: number[] = [];

  /** @param waitedUs from the end of a request to the first byte of its answer */
  hear(waitedUs: number): void {
    this.#lastUs.push(waitedUs);
    if (this.#lastUs.length > answersMeasured) this.#lastUs.shift();
  }

  get us(): number {
    const isKnown = this.#lastUs.length >= answersMeasured / 4;
    const longestUs = Math.min(holdsBackAtMostUs, 1.5 * Math.max(0, ...this.#lastUs));
    return Math.max(isKnown ? holdsBackAtLeastUs : holdsBackAtFirstUs, longestUs);
  }
}

interface Running {
  readonly exchange: Exchange;
  readonly reader: PacketReader;
  readonly replies: { packet: Packet; bytes: Uint8Array; atUs: number }[];
  readonly noise: Uint8Array[];
  readonly late: number[];
  hadBadCheck: boolean;
  times: number;
  sentUs: number;
  /** How long the request itself is on the wire. */
  sendingUs: number;
  /** When the first byte since it was sent has come; NaN for none. */
  firstByteUs: number;
  /** It was given time once more, since the computer had stood still. */
  hadGrace: boolean;
  endUs: number;
}

/**
 * The host's end of a half-duplex wire: one exchange at a time, the most urgent first; waits, retries a bounded number of times, and tells what
 * it heard. It has no clock: times are handed in, in µs.
 */
export class BusWire {
  bitsPerS: number;
  onEvent: ((event: WireEvent) => void) | null = null;
  /** Hears of each exchange that waited for an answer: how long that took, in µs; NaN for one that got none. */
  onAnswered: ((tookUs: number, atUs: number) => void) | null = null;
  readonly #send: (bytes: Uint8Array, bitsPerS: number, atUs: number) => void;
  #waiting: Exchange[] = [];
  #running: Running | null = null;
  #freeUs = 0;
  /** Until then a packet of its own is on the wire, and the gap behind it. */
  #sendingUntilUs = 0;
  #nowUs = 0;
  readonly #heldBack: HeldBack | null;
  /** Who was asked last and did not answer in time, and when that had been sent. */
  #missed: { readonly from: readonly number[]; readonly sentUs: number } | null = null;

  /** @param isThroughAdapter answers may be held back on their way */
  constructor(
    bitsPerS: number,
    send: (bytes: Uint8Array, bitsPerS: number, atUs: number) => void,
    isThroughAdapter = false,
  ) {
    this.bitsPerS = bitsPerS;
    this.#send = send;
    this.#heldBack = isThroughAdapter ? new HeldBack() : null;
  }

  /** How long answers are given beyond what a bare wire needs, in µs. */
  get heldBackUs(): number {
    return this.#heldBack?.us ?? 0;
  }

  get isIdle(): boolean {
    return !this.#running && this.#waiting.length === 0;
  }

  /** From when on the wire is free. */
  get freeUs(): number {
    return this.#running ? this.#running.endUs : this.#freeUs;
  }

  /** When something is to be done next without a byte coming in; Infinity for never. */
  get nextWakeUs(): number {
    if (this.#running) return this.#running.endUs;
    return this.#waiting.length > 0 ? this.#freeUs : Number.POSITIVE_INFINITY;
  }

  /** Lines an exchange up: behind those that are as urgent, before those that are less so. */
  ask(exchange: Exchange, nowUs: number): void {
    this.#nowUs = Math.max(this.#nowUs, nowUs);
    const at = this.#waiting.findIndex((other) => other.rank > exchange.rank);
    if (at < 0) this.#waiting.push(exchange);
    else this.#waiting.splice(at, 0, exchange);
    this.#begin();
  }

  /** Takes back what waits and is not wanted any more. What is on the wire stays there. */
  withdraw(isUnwanted: (exchange: Exchange) => boolean): number {
    const before = this.#waiting.length;
    this.#waiting = this.#waiting.filter((exchange) => !isUnwanted(exchange));
    return before - this.#waiting.length;
  }

  /** Forgets everything, as when the plug is pulled. */
  reset(): void {
    this.#waiting = [];
    this.#running = null;
  }

  /** Sends at once, whoever is expected to answer now: a release must not wait for that. Only its own last packet it lets come to its end. */
  interrupt(layout: Layout, bytes: Uint8Array, nowUs: number): void {
    this.#running = null;
    this.#nowUs = Math.max(nowUs, this.#sendingUntilUs);
    this.#transmit(layout, bytes, true);
    this.#freeUs = this.#sendingUntilUs;
  }

  /** Bytes came in. */
  receive(bytes: Uint8Array, atUs: number): void {
    this.#nowUs = Math.max(this.#nowUs, atUs);
    const running = this.#running;
    if (!running) {
      this.onEvent?.({ kind: "late", atUs, bytes, layoutId: "", isAsked: false });
      return;
    }
    if (Number.isNaN(running.firstByteUs)) running.firstByteUs = atUs;
    running.reader.read(bytes, (heard) => this.#hear(running, heard, atUs));
    const { exchange, replies } = running;
    const hasAll = exchange.from.length > 0 && replies.length >= exchange.from.length;
    if (hasAll && !exchange.listensOut) this.#finish(running, atUs);
  }

  /** Lets time pass up to a moment. */
  wake(nowUs: number): void {
    this.#nowUs = Math.max(this.#nowUs, nowUs);
    const running = this.#running;
    const isAwaited = running && running.exchange.from.length > 0 && !running.hadGrace;
    if (isAwaited && this.#heldBack && nowUs > running.endUs + stoodStillUs) {
      running.hadGrace = true;
      running.endUs = nowUs + graceUs;
      return;
    }
    if (running && nowUs >= running.endUs) {
      running.reader.flush((heard) => this.#hear(running, heard, nowUs));
      const { exchange, replies, times } = running;
      const isEnough = exchange.from.length === 0 || replies.length >= exchange.from.length || exchange.listensOut;
      if (isEnough || times >= exchange.tries) this.#finish(running, nowUs);
      else {
        // Another go, once a late answer would have come.
        this.#nowUs = nowUs + againUs;
        this.#start(running);
      }
    }
    if (!this.#running) this.#begin();
  }

  #begin(): void {
    if (this.#running) return;
    if (this.#waiting.length === 0) return;
    if (this.#nowUs < this.#freeUs) return;
    const exchange = this.#waiting.shift() as Exchange;
    const running: Running = {
      exchange,
      reader: new PacketReader(exchange.layout, "reply"),
      replies: [],
      noise: [],
      late: [],
      hadBadCheck: false,
      times: 0,
      sentUs: 0,
      sendingUs: 0,
      firstByteUs: Number.NaN,
      hadGrace: false,
      endUs: 0,
    };
    this.#running = running;
    this.#start(running);
  }

  #start(running: Running): void {
    const { layout, bytes, from, replyBytes } = running.exchange;
    running.times += 1;
    running.hadGrace = false;
    running.sentUs = this.#nowUs;
    const sentUs = wireUs(bytes.length, layout.bitsPerByte, this.bitsPerS);
    const answersUs = wireUs(from.length * (16 + (replyBytes ?? 32)), layout.bitsPerByte, this.bitsPerS);
    running.sendingUs = sentUs;
    running.firstByteUs = Number.NaN;
    running.endUs = this.#nowUs + sentUs + (from.length > 0 ? replyWaitUs + this.heldBackUs + answersUs : gapUs);
    this.#transmit(layout, bytes, running.exchange.rank === rank.person);
  }

  #transmit(layout: Layout, bytes: Uint8Array, isAsked: boolean): void {
    this.onEvent?.({ kind: "sent", atUs: this.#nowUs, bytes, layoutId: layout.id, isAsked });
    this.#sendingUntilUs = this.#nowUs + wireUs(bytes.length, layout.bitsPerByte, this.bitsPerS) + gapUs;
    this.#send(bytes, this.bitsPerS, this.#nowUs);
  }

  #hear(running: Running, heard: Heard, atUs: number): void {
    const { exchange } = running;
    const layoutId = exchange.layout.id;
    const isAsked = exchange.rank === rank.person;
    if (heard.kind === "noise") {
      running.noise.push(heard.bytes);
      running.hadBadCheck ||= heard.hadBadCheck;
      this.onEvent?.({ kind: "noise", atUs, bytes: heard.bytes, layoutId, isAsked });
      return;
    }
    const { packet, bytes } = heard;
    const isAwaited =
      exchange.from.includes(packet.id) &&
      (exchange.replyBytes === null || packet.error !== 0 || packet.parameters.length === exchange.replyBytes);
    this.onEvent?.({ kind: isAwaited ? "heard" : "late", atUs, bytes, layoutId, isAsked });
    if (isAwaited) {
      this.#heldBack?.hear(running.firstByteUs - running.sentUs - running.sendingUs);
      running.replies.push({ packet, bytes, atUs });
      return;
    }
    running.late.push(packet.id);
    if (this.#missed?.from.includes(packet.id)) {
      // Given up too early: were this not learnt, every answer would go on coming behind the next question.
      this.#heldBack?.hear(atUs - this.#missed.sentUs);
      this.#missed = null;
    }
  }

  #finish(running: Running, atUs: number): void {
    const { exchange, replies, noise, late, hadBadCheck, sentUs, sendingUs, times } = running;
    this.#running = null;
    this.#freeUs = atUs + gapUs;
    if (exchange.from.length > 0 && replies.length === 0)
      this.#missed = { from: exchange.from, sentUs: sentUs + sendingUs };
    if (exchange.from.length > 0 && replies.length === 0 && noise.length === 0)
      this.onEvent?.({
        kind: "silence",
        atUs,
        bytes: new Uint8Array(0),
        layoutId: exchange.layout.id,
        isAsked: exchange.rank === rank.person,
      });
    if (exchange.from.length > 0) this.onAnswered?.(replies[0] ? replies[0].atUs - sentUs : Number.NaN, atUs);
    exchange.onDone({ replies, noise, late, hadBadCheck, sentUs, times });
    this.#begin();
  }
}
