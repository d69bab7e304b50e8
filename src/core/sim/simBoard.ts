import type { SignalMaker } from "@core/encodings";
import {
  type ChannelGroup,
  type ChannelLimits,
  type HostLine,
  isAfter,
  LineReader,
  LineWriter,
  longestLine,
  protocolVersion,
  type ReadLine,
  type RefusalCode,
  readHostLine,
  type SilenceAction,
  setWords,
} from "@core/link";
import { type Board, usualBoardPower } from "@core/project";
import { channelGroupsOf, channelMakersOf } from "@core/signal";
import type { SimServo } from "./simServo";

const inputEveryMs = 100;
/** From its supply's coming back until it hears. */
const startsInMs = 300;
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
  readonly #groups: readonly ChannelGroup[];
  /** What each channel puts out; NaN is no signal. */
  readonly #counts: Float64Array;
  /** What it was last told: put out from the next frame of the channel's group on, never in the middle of a pulse. */
  readonly #told: Float64Array;
  /** The frame that was last told, and the last that all channels put out. */
  #toldSequence = 0;
  #inForce = 0;
  /** How many frames each group has begun. */
  readonly #framesBegun: number[];
  readonly #limits = new Map<number, ChannelLimits>();
  #inputNames: readonly string[];
  #saidMs = Number.NEGATIVE_INFINITY;
  #wasGreeted = false;
  /** Its supply is too low; or it has just come back, and it is starting until then. */
  #isDown = false;
  #startsUntilMs = Number.NEGATIVE_INFINITY;
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
    this.#groups = channelGroupsOf(board);
    this.#framesBegun = this.#groups.map(() => Number.NaN);
    this.#counts = new Float64Array(board.channels).fill(Number.NaN);
    this.#told = new Float64Array(board.channels).fill(Number.NaN);
  }

  /** The set point that leaves a channel: a pulse in µs or a tick; NaN is no signal. */
  setPointOf(channel: number): number {
    return this.#makers[channel]?.toSetPoint(this.#counts[channel] as number) ?? Number.NaN;
  }

  /**
   * What reaches it, in V. Below what it needs it goes out: its servos get no signal, and it forgets all that it was told. When its supply is back it starts anew, and
   * wants to be greeted. Says whether it has just gone out.
   */
  supply(volts: number, nowMs: number): boolean {
    const isDown = volts < (this.#board.power ?? usualBoardPower).lowestVolts;
    const wasDown = this.#isDown;
    this.#isDown = isDown;
    if (wasDown && !isDown) this.#startsUntilMs = nowMs + startsInMs;
    if (wasDown || !isDown) return false;
    this.#release();
    this.#wasGreeted = false;
    this.#lastSequence = 0;
    this.#watchdog = null;
    this.#limits.clear();
    return true;
  }

  receive(bytes: Uint8Array, nowMs: number): void {
    this.#nowMs = nowMs;
    if (this.#isDown || nowMs < this.#startsUntilMs) return;
    // Before the line that feeds it: a host that comes too late finds what the silence has done.
    this.#lookAtWatchdog();
    this.#reader.read(bytes, this.#onLine);
  }

  /** Lets time pass: the watchdog looks at the clock, and every servo turns on. */
  advance(nowMs: number, dtMs: number): void {
    this.#nowMs = nowMs;
    this.#lookAtWatchdog();
    this.#beginFrames();
    for (const [channel, servo] of this.#servos) servo.step(dtMs, this.setPointOf(channel));
    if (!this.#isDown) this.#sayInputs(nowMs);
  }

  /** After too long a silence it holds on, or releases; then it wants to be greeted before it takes a frame again. */
  #lookAtWatchdog(): void {
    const { afterMs, action } = this.#watchdog ?? this.#board.silence;
    if (!this.#wasGreeted || this.#hasActed || this.#nowMs - this.#fedMs <= afterMs) return;
    this.#hasActed = true;
    if (action === "release") {
      this.#release();
      this.#wasGreeted = false;
    }
    this.#send(this.#writer.begin(`T ${action}`).end());
  }

  /** Each group of channels that begins another frame puts out what it was told. */
  #beginFrames(): void {
    let isAll = true;
    for (const [at, { first, last, periodNs }] of this.#groups.entries()) {
      const begun = Math.floor((this.#nowMs * 1e6) / periodNs);
      const isNew = begun !== this.#framesBegun[at];
      this.#framesBegun[at] = begun;
      if (isNew) for (let channel = first; channel <= last; channel += 1) this.#put(channel);
      isAll &&= isNew;
    }
    if (isAll) this.#inForce = this.#toldSequence;
  }

  #put(channel: number): void {
    this.#counts[channel] = this.#told[channel] as number;
  }

  /** No channel begins another pulse. */
  #release(): void {
    this.#told.fill(Number.NaN);
    this.#counts.fill(Number.NaN);
    this.#inForce = this.#toldSequence;
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
    const refusal = message
      ? this.#refusalOf(message)
      : line.kind === "bad"
        ? line.reason
        : line.kind === "old"
          ? "check"
          : "form";
    if (refusal) {
      this.#send(this.#writer.begin("E ").number(sequence).text(` ${refusal}`).end());
      return;
    }
    if (message) this.#obey(message);
    // Never back: an old release must not open the door to an old frame behind it.
    if (this.#lastSequence === 0 || isAfter(sequence, this.#lastSequence)) this.#lastSequence = sequence;
    this.#feed();
    this.#send(this.#writer.begin("A ").number(sequence).text(" ").number(this.#inForce).end());
    if (message?.kind === "set") this.#report();
  }

  /** What its own little sensors say, as plain lines: a vane that follows a light wind. */
  #sayInputs(nowMs: number): void {
    if (this.#inputNames.length === 0 || nowMs - this.#saidMs < inputEveryMs) return;
    this.#saidMs = nowMs;
    const deg = Math.round(180 + 140 * Math.sin(nowMs / 34_000) * Math.cos(nowMs / 15_000));
    for (const name of this.#inputNames) this.#send(asciiBytes(`${name}=${this.#meterOf(name) ?? deg}\n`));
  }

  /** A line called `meter4` is that of a meter in the supply wire of channel 4, in mA; null for any other. */
  #meterOf(name: string): number | null {
    const channel = /^meter(\d+)$/.exec(name)?.[1];
    const servo = channel === undefined ? undefined : this.#servos.get(Number(channel));
    return servo ? Math.round(servo.readCurrentMa() || 0) : null;
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
    if (message.kind === "watchdog") return message.afterMs >= 100 && message.afterMs <= 60_000 ? null : "range";
    if (message.kind === "limits") return message.limits.every((one) => this.#isPossible(one)) ? null : "range";
    const isInRange = ([channel, count]: readonly [number, number]) => {
      const group = this.#groupOf(channel);
      return group !== undefined && count >= group.lowestCount && count <= group.highestCount;
    };
    if (!message.channels.every(isInRange)) return "range";
    return message.channels.every(([channel, count]) => this.#isAllowed(channel, count)) ? null : "limit";
  }

  #groupOf(channel: number): ChannelGroup | undefined {
    return this.#groups.find(({ first, last }) => first <= channel && channel <= last);
  }

  #isPossible({ channel, lowest, highest }: ChannelLimits): boolean {
    const group = this.#groupOf(channel);
    return group !== undefined && lowest <= highest && lowest >= group.lowestCount && highest <= group.highestCount;
  }

  /** Whether a channel may go to a count: it has limits, is within them or comes in from outside, and goes no further than its step. */
  #isAllowed(channel: number, count: number): boolean {
    const limits = this.#limits.get(channel);
    if (!limits) return false;
    const { lowest, highest, step } = limits;
    const stands = this.#told[channel] as number;
    if (!Number.isNaN(stands) && Math.abs(count - stands) > step) return false;
    if (count < lowest) return count >= stands;
    return count <= highest || count <= stands;
  }

  #obey(message: NumberedLine): void {
    if (message.kind === "watchdog") {
      this.#watchdog = { afterMs: message.afterMs, action: message.action };
      return;
    }
    if (message.kind === "limits") {
      for (const limits of message.limits) this.#limits.set(limits.channel, limits);
      return;
    }
    this.#toldSequence = message.sequence;
    if (message.kind === "release") {
      this.#release();
      return;
    }
    // A frame says everything: a channel that it does not name has no signal.
    this.#told.fill(Number.NaN);
    for (const [channel, count] of message.channels) this.#told[channel] = count;
  }

  /** A greeting starts the numbering anew, and forgets the limits; what the channels put out stays as it is. */
  #greet(): void {
    this.#wasGreeted = true;
    this.#lastSequence = 0;
    this.#toldSequence = 0;
    this.#inForce = 0;
    this.#limits.clear();
    this.#feed();
    const { label, channels } = this.#board;
    const { unit } = this.#makers[0] as SignalMaker;
    const name = label.replace(/[^A-Za-z0-9_-]/g, "_").slice(0, 40) || "board";
    const groups = this.#groups.map(
      (one) =>
        `${one.first}-${one.last}:${one.periodNs}:${one.lowestCount}:${one.atLowest}:${one.highestCount}:${one.atHighest}`,
    );
    const driven = [...this.#told.keys()].filter((channel) => !Number.isNaN(this.#told[channel]));
    const words = ["V", protocolVersion, name, unit, channels, longestLine, groups.join(","), setWords(driven)];
    this.#send(this.#writer.begin(words.join(" ")).end());
  }

  #feed(): void {
    this.#fedMs = this.#nowMs;
    this.#hasActed = false;
  }
}
