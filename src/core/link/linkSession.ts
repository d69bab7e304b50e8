import { dequal } from "dequal";
import { type DescribedBoard, mismatchOf, versionWords } from "./comparison";
import { LineReader, type ReadLine } from "./lineReader";
import { LineWriter, longestLine } from "./lineWriter";
import { LinkHealth } from "./linkHealth";
import {
  type ChannelLimits,
  type Greeting,
  isAfter,
  nextSequence,
  protocolVersion,
  readBoardLine,
  type SilenceAction,
} from "./messages";
import { StrangeBytes } from "./strangeBytes";

/** A board as the project describes it, and what it is to do when it hears nothing. */
export interface ExpectedBoard extends DescribedBoard {
  readonly silence: { readonly afterMs: number; readonly action: SilenceAction };
}

export type LinkState =
  /** Greeted; no answer yet. */
  | { readonly kind: "greeting" }
  | { readonly kind: "live" }
  /** It answered before and is silent now. */
  | { readonly kind: "lost" }
  /** It answers, but must not be driven; the sentence says why and what would be right. */
  | { readonly kind: "refused"; readonly sentence: string };

/** So many frames may be on their way at once; with more, none is sent. */
const framesOnTheWay = 16;
/** After so many frames without word that one was taken, what is sent waits. */
const framesUntilWaiting = 3;
/** So many lines in a row refused, and the board is not one that can be driven. */
const refusalsUntilGivenUp = 12;

/** So long it waits before it tells a board its limits again that refused a frame for them. */
const limitsAgainMs = 100;

/** One frame that was sent, with what it says of each channel; 0 as its number for an empty place. */
interface SentFrame {
  sequence: number;
  sentMs: number;
  readonly counts: Float64Array;
}

const greetAgainMs = 500;
/** A live board answers every line; this long without an answer and the link is lost. */
const lostAfterMs = 250;

/**
 * The host's end of one link: greets, sets the watchdog, sends frames, notices silence, greets again.
 * It has no clock and no wire of its own: times are handed in, bytes go to `send` and come in through `receive`.
 */
export class LinkSession {
  state: LinkState = { kind: "greeting" };
  /** What the board last said of itself; null before it was heard. */
  greeting: Greeting | null = null;
  /** Hears every `name=value` that arrives, from a board in any state. */
  onInput: (name: string, value: number) => void = () => {};
  readonly health = new LinkHealth();
  /** What was heard while nobody answered. */
  readonly strange = new StrangeBytes();
  framesSent = 0;
  linesRefused = 0;
  /** At its last greeting the board had no signal on any channel: its servos are limp. */
  wasLimp = true;
  /** What the board last read of its servos, by channel; NaN for one that cannot be read, or was not read yet. */
  readonly positions: Float64Array;
  readonly currentsMa: Float64Array;
  readonly #reader = new LineReader();
  readonly #writer = new LineWriter();
  #expected: ExpectedBoard;
  readonly #send: (bytes: Uint8Array) => void;
  /** What each channel puts out by the last frame that the board said it took; NaN for no signal, and for what nobody knows. */
  readonly heard: Float64Array;
  /** The lowest and the highest number that a channel may be putting out, now that more frames are on their way. */
  readonly #lowest: Float64Array;
  readonly #highest: Float64Array;
  readonly #sent: readonly SentFrame[];
  /** The frame that the channels put out by what the board last said; 0 for none. */
  inForce = 0;
  #limits: readonly ChannelLimits[] = [];
  #limitsToldMs = Number.NEGATIVE_INFINITY;
  #longestLine = longestLine;
  #framesUnheard = 0;
  #refusals = 0;
  /** How often the board was met: greeted, and found to be the right one. Between two meetings it may have let go. */
  timesMet = 0;
  #sequence = 1;
  #greetedMs = Number.NEGATIVE_INFINITY;
  #heardMs = 0;
  /** When the oldest line that still waits for an answer was sent; NaN when none waits. */
  #waitingSinceMs = Number.NaN;
  #nowMs = 0;
  readonly #onLine = (line: ReadLine) => this.#take(line);

  constructor(expected: ExpectedBoard, send: (bytes: Uint8Array) => void) {
    this.#expected = expected;
    this.#send = send;
    this.positions = new Float64Array(expected.channels).fill(Number.NaN);
    this.currentsMa = new Float64Array(expected.channels).fill(Number.NaN);
    const none = () => new Float64Array(expected.channels).fill(Number.NaN);
    this.heard = none();
    this.#lowest = none();
    this.#highest = none();
    this.#sent = Array.from({ length: framesOnTheWay }, () => ({ sequence: 0, sentMs: 0, counts: none() }));
  }

  /** Other joints are wired to it now: a frame of them may be longer than what the board takes. */
  setFrameBytes(frameBytes: number): void {
    this.#expected = { ...this.#expected, frameBytes };
    const sentence = this.state.kind === "live" && this.greeting && mismatchOf(this.#expected, this.greeting);
    if (sentence) this.state = { kind: "refused", sentence };
  }

  /** Some frames have gone out without word that the board took one: nobody knows whether it still hears. */
  get isWaiting(): boolean {
    return this.#framesUnheard >= framesUntilWaiting;
  }

  /** Whether a frame that gives this channel a signal is on its way: what the board last said of it is older than that. */
  isOnItsWay(channel: number): boolean {
    return this.#sent.some(({ sequence, counts }) => sequence !== 0 && !Number.isNaN(counts[channel]));
  }

  /** What the board may be putting out: the frame it last took, and those on their way, by channel. Valid until the next frame is sent or heard of. */
  get mayStand(): { readonly heard: Float64Array; readonly lowest: Float64Array; readonly highest: Float64Array } {
    this.#lowest.set(this.heard);
    this.#highest.set(this.heard);
    for (const { sequence, counts } of this.#sent) {
      if (sequence === 0) continue;
      for (let channel = 0; channel < counts.length; channel += 1) {
        const count = counts[channel] as number;
        // Not “is less”, so that a number takes the place of none.
        if (!Number.isNaN(count) && !((this.#lowest[channel] as number) <= count)) this.#lowest[channel] = count;
        if (!Number.isNaN(count) && !((this.#highest[channel] as number) >= count)) this.#highest[channel] = count;
      }
    }
    return { heard: this.heard, lowest: this.#lowest, highest: this.#highest };
  }

  /** Greets while there is no live board, and finds out when a live one has fallen silent. Call it every tick. */
  tick(nowMs: number): void {
    this.#nowMs = nowMs;
    if (this.state.kind === "live") {
      if (nowMs - this.#waitingSinceMs > lostAfterMs) {
        this.#lose();
      } else return;
    }
    if (nowMs - this.#greetedMs < greetAgainMs) return;
    this.#greetedMs = nowMs;
    this.#send(this.#writer.begin("V ").number(protocolVersion).end());
  }

  receive(bytes: Uint8Array, nowMs: number): void {
    this.#nowMs = nowMs;
    if (this.state.kind !== "live") this.strange.hear(bytes);
    this.#reader.read(bytes, this.#onLine);
  }

  /**
   * Sends one frame: the counts of all channels by number, NaN for a channel without a signal.
   * A channel that the line does not name is released by the board, so every frame says everything.
   */
  sendFrame(channels: ArrayLike<number>, counts: ArrayLike<number>, nowMs: number): void {
    if (this.state.kind !== "live") return;
    const frame = this.#sent.find(({ sequence }) => sequence === 0);
    if (!frame) return;
    const writer = this.#begin("S ", nowMs);
    frame.sequence = this.#sequence;
    frame.sentMs = nowMs;
    frame.counts.fill(Number.NaN);
    for (let at = 0; at < channels.length; at += 1) {
      const count = counts[at] as number;
      if (Number.isNaN(count)) continue;
      frame.counts[channels[at] as number] = count;
      writer
        .text(" ")
        .number(channels[at] as number)
        .text(":")
        .number(count);
    }
    this.framesSent += 1;
    this.#framesUnheard += 1;
    this.#send(writer.end());
  }

  /** A line was taken, or not: if it was a frame, so is what the channels put out. Frames before it are over. */
  #settle(sequence: number, wasTaken: boolean): void {
    const frame = this.#sent.find((one) => one.sequence === sequence);
    if (!frame) return;
    if (wasTaken) {
      this.heard.set(frame.counts);
      this.#framesUnheard = 0;
      this.health.took(this.#nowMs - frame.sentMs, this.#nowMs);
      for (const one of this.#sent)
        if (one.sequence !== 0 && isAfter(sequence, one.sequence)) {
          one.sequence = 0;
          this.health.lose(1, this.#nowMs);
        }
    }
    frame.sequence = 0;
  }

  /** Nothing is on its way any more, and no channel has a signal. */
  #forget(): void {
    this.heard.fill(Number.NaN);
    this.#framesUnheard = 0;
    for (const one of this.#sent) one.sequence = 0;
  }

  /** Whether the channels with a signal are those of some frame that the board may have taken. */
  #isKnown(driven: readonly number[]): boolean {
    const isThat = (counts: Float64Array) =>
      counts.every((count, channel) => Number.isNaN(count) !== driven.includes(channel));
    return isThat(this.heard) || this.#sent.some((one) => one.sequence !== 0 && isThat(one.counts));
  }

  /** What the board is to hold its channels to, besides the host: told at once, and after each greeting. Without them it takes no frame. */
  setLimits(limits: readonly ChannelLimits[], nowMs: number): void {
    if (dequal(limits, this.#limits)) return;
    this.#limits = limits;
    if (this.state.kind === "live") this.#tellLimits(nowMs);
  }

  #tellLimits(nowMs: number): void {
    this.#limitsToldMs = nowMs;
    for (let at = 0; at < this.#limits.length; ) {
      const writer = this.#begin("L ", nowMs);
      // Four numbers of at most ten digits, with what parts them.
      do {
        const { channel, lowest, highest, step } = this.#limits[at] as ChannelLimits;
        writer.text(" ").number(channel).text(":").number(lowest).text(":").number(highest).text(":").number(step);
        at += 1;
      } while (at < this.#limits.length && writer.lengthSoFar + 44 <= this.#longestLine);
      this.#send(writer.end());
    }
  }

  /** The wire itself is gone: no answer is waited for. */
  wireLost(): void {
    if (this.state.kind === "live") this.#lose();
  }

  #lose(): void {
    this.state = { kind: "lost" };
    this.health.lose(this.#sent.filter(({ sequence }) => sequence !== 0).length, this.#nowMs);
    this.positions.fill(Number.NaN);
    this.currentsMa.fill(Number.NaN);
    this.#greetedMs = Number.NEGATIVE_INFINITY;
  }

  /** Releases every channel at once. Sent in any state: a board that hears it obeys. */
  releaseAll(nowMs: number): void {
    const writer = this.#begin("R ", nowMs);
    // It is a frame that names no channel; where too many are on their way it takes the place of the oldest.
    const frame = this.#sent.find(({ sequence }) => sequence === 0) ?? (this.#sent[0] as SentFrame);
    frame.sequence = this.#sequence;
    frame.sentMs = nowMs;
    frame.counts.fill(Number.NaN);
    this.#send(writer.end());
  }

  #begin(verb: string, nowMs: number): LineWriter {
    this.#nowMs = nowMs;
    this.#sequence = nextSequence(this.#sequence);
    if (Number.isNaN(this.#waitingSinceMs)) this.#waitingSinceMs = nowMs;
    return this.#writer.begin(verb).number(this.#sequence);
  }

  #take(line: ReadLine): void {
    if (line.kind === "old") {
      this.state = { kind: "refused", sentence: versionWords(this.#expected.label, 1) };
      return;
    }
    if (line.kind === "input") {
      this.onInput(line.name, line.value);
      return;
    }
    const message = line.kind === "body" ? readBoardLine(line.body) : null;
    if (!message) return;
    this.#heardMs = this.#nowMs;
    switch (message.kind) {
      case "greeting":
        this.#meet(message.greeting);
        break;
      case "done":
        this.#waitingSinceMs = Number.NaN;
        this.#refusals = 0;
        this.inForce = message.inForce;
        this.#settle(message.sequence, true);
        break;
      case "refused":
        this.#waitingSinceMs = Number.NaN;
        this.linesRefused += 1;
        this.health.refuse();
        this.#refusals += 1;
        this.#settle(message.sequence, false);
        // A board that wants to be greeted first was restarted, or has released by itself.
        if (message.code === "order") this.#lose();
        // Nothing of its numbers fits to ours any more: begin anew.
        else if (message.code === "stale") this.#lose();
        else if (message.code === "limit" && this.#nowMs - this.#limitsToldMs >= limitsAgainMs)
          this.#tellLimits(this.#nowMs);
        if (this.state.kind !== "live") break;
        if (this.#refusals >= refusalsUntilGivenUp)
          this.state = { kind: "refused", sentence: refusedWords(this.#expected.label, message.code) };
        break;
      case "silenceActed":
        // It heard nothing for too long and let its servos go: nothing may drive them again by itself.
        if (message.action === "release") {
          this.#forget();
          this.#lose();
        }
        break;
      case "readings":
        for (const { channel, position, currentMa } of message.readings) {
          if (channel >= this.positions.length) continue;
          this.positions[channel] = position;
          this.currentsMa[channel] = currentMa;
        }
        break;
    }
  }

  #meet(greeting: Greeting): void {
    this.greeting = greeting;
    const sentence = mismatchOf(this.#expected, greeting);
    if (sentence) {
      this.state = { kind: "refused", sentence };
      return;
    }
    const { afterMs, action } = this.#expected.silence;
    this.state = { kind: "live" };
    this.#refusals = 0;
    // Signals of which nobody here knows are no ground to go on from.
    const { driven } = greeting;
    const isStrange = driven.length > 0 && !(this.timesMet > 0 && this.#isKnown(driven));
    if (isStrange) this.#send(this.#begin("R ", this.#heardMs).end());
    this.wasLimp = driven.length === 0 || isStrange;
    if (this.wasLimp) this.#forget();
    this.#framesUnheard = 0;
    this.#longestLine = Math.min(longestLine, greeting.longestLine);
    this.timesMet += 1;
    this.health.meet();
    this.strange.forget();
    this.#waitingSinceMs = Number.NaN;
    this.#send(this.#begin("W ", this.#heardMs).text(" ").number(afterMs).text(` ${action}`).end());
    this.#tellLimits(this.#heardMs);
  }
}

const refusedWords = (label: string, code: string): string =>
  `${label} takes nothing of what it is sent (it says “${code}”). Its program is not the one that the project describes; load a fitting one.`;
