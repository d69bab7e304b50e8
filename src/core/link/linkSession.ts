import { LineReader, type ReadLine } from "./lineReader";
import { LineWriter } from "./lineWriter";
import { type Greeting, nextSequence, protocolVersion, readBoardLine, type SilenceAction } from "./messages";

/** What the project says the board at the other end is. A board that is not so gets no signals. */
export interface ExpectedBoard {
  readonly label: string;
  readonly registerName: "count" | "tick";
  readonly channels: number;
  readonly highestRegister: number;
  /** The true period of the frame, one per group of channels. */
  readonly periodsUs: readonly number[];
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

const greetAgainMs = 500;
/** A live board answers every line; this long without an answer and the link is lost. */
const lostAfterMs = 250;

/**
 * The host's end of one link: greets, sets the watchdog, sends frames, notices silence, greets again.
 * It has no clock and no wire of its own: times are handed in, bytes go to `send` and come in through `receive`.
 */
export class LinkSession {
  state: LinkState = { kind: "greeting" };
  /** Hears every `name=value` that arrives, from a board in any state. */
  onInput: (name: string, value: number) => void = () => {};
  framesSent = 0;
  linesRefused = 0;
  /** At its last greeting the board had no signal on any channel: its servos are limp. */
  wasLimp = true;
  /** What the board last read of its servos, by channel; NaN for one that cannot be read, or was not read yet. */
  readonly positions: Float64Array;
  readonly currentsMa: Float64Array;
  readonly #reader = new LineReader();
  readonly #writer = new LineWriter();
  readonly #expected: ExpectedBoard;
  readonly #send: (bytes: Uint8Array) => void;
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
  }

  /** Greets while there is no live board, and finds out when a live one has fallen silent. Call it every tick. */
  tick(nowMs: number): void {
    this.#nowMs = nowMs;
    if (this.state.kind === "live") {
      if (nowMs - this.#waitingSinceMs > lostAfterMs) {
        this.state = { kind: "lost" };
        this.positions.fill(Number.NaN);
        this.currentsMa.fill(Number.NaN);
        this.#greetedMs = Number.NEGATIVE_INFINITY;
      } else return;
    }
    if (nowMs - this.#greetedMs < greetAgainMs) return;
    this.#greetedMs = nowMs;
    this.#send(this.#writer.begin("V ").number(protocolVersion).end());
  }

  receive(bytes: Uint8Array, nowMs: number): void {
    this.#nowMs = nowMs;
    this.#reader.read(bytes, this.#onLine);
  }

  /**
   * Sends one frame: the registers of all channels by number, NaN for a channel without a signal.
   * A channel that the line does not name is released by the board, so every frame says everything.
   */
  sendFrame(channels: ArrayLike<number>, registers: ArrayLike<number>, nowMs: number): void {
    if (this.state.kind !== "live") return;
    const writer = this.#begin("S ", nowMs);
    for (let at = 0; at < channels.length; at += 1) {
      const register = registers[at] as number;
      if (Number.isNaN(register)) continue;
      writer
        .text(" ")
        .number(channels[at] as number)
        .text(":")
        .number(register);
    }
    this.framesSent += 1;
    this.#send(writer.end());
  }

  /** Releases every channel at once. Sent in any state: a board that hears it obeys. */
  releaseAll(nowMs: number): void {
    this.#send(this.#begin("R ", nowMs).end());
  }

  #begin(verb: string, nowMs: number): LineWriter {
    this.#nowMs = nowMs;
    this.#sequence = nextSequence(this.#sequence);
    if (Number.isNaN(this.#waitingSinceMs)) this.#waitingSinceMs = nowMs;
    return this.#writer.begin(verb).number(this.#sequence);
  }

  #take(line: ReadLine): void {
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
        break;
      case "refused":
        this.#waitingSinceMs = Number.NaN;
        this.linesRefused += 1;
        // A board that wants to be greeted first was restarted.
        if (message.code === "order") this.state = { kind: "lost" };
        break;
      case "silenceActed":
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
    const sentence = mismatchOf(this.#expected, greeting);
    if (sentence) {
      this.state = { kind: "refused", sentence };
      return;
    }
    const { afterMs, action } = this.#expected.silence;
    this.state = { kind: "live" };
    this.wasLimp = greeting.drivenChannels === 0;
    this.#waitingSinceMs = Number.NaN;
    this.#send(this.#begin("W ", this.#heardMs).text(" ").number(afterMs).text(` ${action}`).end());
  }
}

/** Why this board must not be driven as the project describes it, or null when it may be. */
function mismatchOf(expected: ExpectedBoard, greeting: Greeting): string | null {
  const { label } = expected;
  if (greeting.version !== protocolVersion)
    return `${label} speaks version ${greeting.version} of the link; this bench speaks version ${protocolVersion}. Load a fitting sketch onto the board.`;
  if (greeting.registerName !== expected.registerName)
    return `${label} takes ${greeting.registerName}s, but the project drives it in ${expected.registerName}s. Change the board's kind in the project.`;
  if (greeting.highestRegister !== expected.highestRegister)
    return `${label} counts up to ${greeting.highestRegister}, but the project says ${expected.highestRegister}: every pulse would be wrong. Make the two agree.`;
  if (greeting.channels < expected.channels)
    return `${label} has ${greeting.channels} channels, but the project uses ${expected.channels}.`;
  if (greeting.periodsNs.length !== expected.periodsUs.length)
    return `${label} has ${greeting.periodsNs.length} frame rates, but the project sets ${expected.periodsUs.length}. Make the two agree.`;
  // Half a per cent of a 2000 µs pulse is 10 µs, about a degree: beyond that the frame rate is set wrongly.
  for (const [group, periodNs] of greeting.periodsNs.entries()) {
    const expectedUs = expected.periodsUs[group] as number;
    if (Math.abs(periodNs / 1000 / expectedUs - 1) > 0.005)
      return `${label} repeats its frame every ${periodNs / 1000} µs, but the project says ${expectedUs} µs: every pulse would be wrong. Make the two agree.`;
  }
  return null;
}
