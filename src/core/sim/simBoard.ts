import {
  type HostLine,
  isAfter,
  LineReader,
  LineWriter,
  protocolVersion,
  type ReadLine,
  type RefusalCode,
  readHostLine,
  type SilenceAction,
} from "@core/link";
import type { Board } from "@core/project";
import { channelMakersOf, framePeriodsUs, type SignalMaker } from "@core/signal";
import type { SimServo } from "./simServo";

const inputEveryMs = 100;
const asciiBytes = (text: string) => Uint8Array.from(text, (character) => character.charCodeAt(0));

/** Every line but the greeting carries a sequence number. */
type NumberedLine = Exclude<HostLine, { kind: "greet" }>;

/**
 * A simulated board at the far end of a link. It knows nothing of the engine: it gets the very bytes that a real
 * board would get, believes only lines with a right check value, and turns the servos plugged into its channels.
 * `docs/link-protocol.md` is its specification.
 */
export class SimBoard {
  readonly #makers: readonly SignalMaker[];
  readonly #board: Board;
  #servos: ReadonlyMap<number, SimServo>;
  #readable: readonly (readonly [number, SimServo])[];
  readonly #send: (bytes: Uint8Array) => void;
  readonly #reader = new LineReader();
  readonly #writer = new LineWriter();
  /** What each channel puts out; NaN is no signal. */
  readonly #registers: Float64Array;
  #inputNames: readonly string[];
  #saidMs = Number.NEGATIVE_INFINITY;
  #wasGreeted = false;
  #lastSequence = 0;
  #watchdog: { afterMs: number; action: SilenceAction } | null = null;
  #fedMs = 0;
  #hasActed = false;
  #nowMs = 0;
  readonly #onLine = (line: ReadLine) => this.#take(line);

  constructor(
    board: Board,
    servos: ReadonlyMap<number, SimServo>,
    send: (bytes: Uint8Array) => void,
    inputNames: readonly string[] = [],
  ) {
    this.#inputNames = inputNames;
    this.#board = board;
    this.#servos = servos;
    this.#readable = [...servos].filter(([, servo]) => servo.isReadable);
    this.#send = send;
    this.#makers = channelMakersOf(board);
    this.#registers = new Float64Array(board.channels).fill(Number.NaN);
  }

  /** The set point that leaves a channel: a pulse in µs or a tick; NaN is no signal. */
  setPointOf(channel: number): number {
    return this.#makers[channel]?.toSetPoint(this.#registers[channel] as number) ?? Number.NaN;
  }

  receive(bytes: Uint8Array, nowMs: number): void {
    this.#nowMs = nowMs;
    // Before the line that feeds it: a host that comes too late finds what the silence has done.
    this.#lookAtWatchdog();
    this.#reader.read(bytes, this.#onLine);
  }

  /** Lets time pass: the watchdog looks at the clock, and every servo turns on. */
  advance(nowMs: number, dtMs: number): void {
    this.#nowMs = nowMs;
    this.#lookAtWatchdog();
    for (const [channel, servo] of this.#servos) servo.step(dtMs, this.setPointOf(channel));
    this.#sayInputs(nowMs);
  }

  /** After too long a silence it holds on, or releases; then it wants to be greeted before it takes a frame again. */
  #lookAtWatchdog(): void {
    const { afterMs, action } = this.#watchdog ?? this.#board.silence;
    if (!this.#wasGreeted || this.#hasActed || this.#nowMs - this.#fedMs <= afterMs) return;
    this.#hasActed = true;
    if (action === "release") {
      this.#registers.fill(Number.NaN);
      this.#wasGreeted = false;
    }
    this.#send(this.#writer.begin(`T ${action}`).end());
  }

  /** Another set of servos is plugged into its channels; what it puts out stays as it is. */
  plugServos(servos: ReadonlyMap<number, SimServo>, inputNames: readonly string[]): void {
    this.#servos = servos;
    this.#readable = [...servos].filter(([, servo]) => servo.isReadable);
    this.#inputNames = inputNames;
  }

  #take(line: ReadLine): void {
    const message = line.kind === "body" ? readHostLine(line.body) : null;
    if (message?.kind === "greet") {
      this.#greet();
      return;
    }
    const sequence = message?.sequence ?? 0;
    const refusal = message ? this.#refusalOf(message) : line.kind === "bad" ? line.reason : "form";
    if (refusal) {
      this.#send(this.#writer.begin("E ").number(sequence).text(` ${refusal}`).end());
      return;
    }
    if (message) this.#obey(message);
    // Never back: an old release must not open the door to an old frame behind it.
    if (this.#lastSequence === 0 || isAfter(sequence, this.#lastSequence)) this.#lastSequence = sequence;
    this.#feed();
    this.#send(this.#writer.begin("A ").number(sequence).end());
    if (message?.kind === "set") this.#report();
  }

  /** What its own little sensors say, as plain lines: a vane that follows the wind. */
  #sayInputs(nowMs: number): void {
    if (this.#inputNames.length === 0 || nowMs - this.#saidMs < inputEveryMs) return;
    this.#saidMs = nowMs;
    const deg = Math.round(180 + 140 * Math.sin(nowMs / 4300) * Math.cos(nowMs / 1900));
    for (const name of this.#inputNames) this.#send(asciiBytes(`${name}=${deg}\n`));
  }

  /** After each frame: where the servos that can be read stand, and what they draw. */
  #report(): void {
    if (this.#readable.length === 0) return;
    this.#writer.begin("P");
    for (const [channel, servo] of this.#readable)
      this.#writer
        .text(" ")
        .number(channel)
        .text(":")
        .number(servo.readSensor())
        .text(":")
        .number(Math.round(servo.readCurrentMa()));
    this.#send(this.#writer.end());
  }

  /** Why a well-formed line must not be obeyed, or null. A release is never too late or too early. */
  #refusalOf(message: NumberedLine): RefusalCode | null {
    if (message.kind === "release") return null;
    if (!this.#wasGreeted) return "order";
    if (this.#lastSequence > 0 && !isAfter(message.sequence, this.#lastSequence)) return "stale";
    const isInRange =
      message.kind === "watchdog"
        ? message.afterMs >= 100 && message.afterMs <= 60_000
        : message.channels.every(([channel, register]) => register <= (this.#makers[channel]?.highestRegister ?? -1));
    return isInRange ? null : "range";
  }

  #obey(message: NumberedLine): void {
    if (message.kind === "watchdog") {
      this.#watchdog = { afterMs: message.afterMs, action: message.action };
      return;
    }
    // A frame says everything: a channel that it does not name has no signal.
    this.#registers.fill(Number.NaN);
    if (message.kind === "set") for (const [channel, register] of message.channels) this.#registers[channel] = register;
  }

  /** A greeting starts the numbering anew; what the channels put out stays as it is. */
  #greet(): void {
    this.#wasGreeted = true;
    this.#lastSequence = 0;
    this.#feed();
    const { label, channels } = this.#board;
    const first = this.#makers[0] as SignalMaker;
    const periodsNs = framePeriodsUs(this.#board).map((periodUs) => Math.round(periodUs * 1000));
    const name = label.replace(/[^A-Za-z0-9_-]/g, "_");
    this.#send(
      this.#writer
        .begin(`V ${protocolVersion} ${name} ${first.unit} `)
        .number(channels)
        .text(" ")
        .number(Math.max(...this.#makers.map((maker) => maker.highestRegister)))
        .text(` ${periodsNs.join(",")}`)
        .text(" ")
        .number(this.#registers.filter((register) => !Number.isNaN(register)).length)
        .end(),
    );
  }

  #feed(): void {
    this.#fedMs = this.#nowMs;
    this.#hasActed = false;
  }
}
