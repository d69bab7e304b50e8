import { makerOf } from "@core/encodings";
import type { BoardOutput } from "@core/engine";
import { countLimits, lastStage } from "@core/gate";
import { LinkSession, type LinkState } from "@core/link";
import type { Board } from "@core/project";
import { channelGroupsOf } from "@core/signal";
import type { LineWire, Link } from "./link";

/** A link to a board that makes pulses: the host's end of the line protocol, on whatever wire. */
export class PulseLink implements Link {
  readonly boardId: string;
  readonly mustBeGreeted = true;
  readonly #session: LinkSession;
  #nowMs = 0;

  constructor(board: Board, wire: LineWire, onInput: (name: string, value: number) => void) {
    this.boardId = board.id;
    this.#session = new LinkSession(expectedOf(board), (bytes) => wire.send(bytes, this.#nowMs));
    this.#session.onInput = onInput;
    wire.onBytes = (bytes, nowMs) => this.#session.receive(bytes, nowMs);
  }

  get state(): LinkState {
    return this.#session.state;
  }

  get wasLimp(): boolean {
    return this.#session.wasLimp;
  }

  get timesMet(): number {
    return this.#session.timesMet;
  }

  get isWaiting(): boolean {
    return this.#session.isWaiting;
  }

  get heard(): Float64Array {
    return this.#session.heard;
  }

  get positions(): Float64Array {
    return this.#session.positions;
  }

  get currentsMa(): Float64Array {
    return this.#session.currentsMa;
  }

  /** What else is told to a board comes with its limits and its frames. */
  follow(): void {}

  limit({ staged, periodMs }: BoardOutput, nowMs: number): void {
    this.#nowMs = nowMs;
    const limits = staged.flatMap((one) => countLimits(one.channel, one.limits, periodMs) ?? []);
    this.#session.setLimits(limits, nowMs);
  }

  tick(nowMs: number): void {
    this.#nowMs = nowMs;
    this.#session.tick(nowMs);
  }

  send({ staged, channels, counts, periodMs }: BoardOutput, nowMs: number): void {
    this.#nowMs = nowMs;
    lastStage(staged, counts, this.#session.mayStand, periodMs);
    this.#session.sendFrame(channels, counts, nowMs);
  }

  releaseAll(nowMs: number): void {
    this.#nowMs = nowMs;
    this.#session.releaseAll(nowMs);
  }
}

const expectedOf = (board: Board) => ({
  label: board.label,
  countName: makerOf(board.encoding, board.frameHz[0] ?? 50).unit,
  channels: board.channels,
  groups: channelGroupsOf(board),
  silence: board.silence,
});
