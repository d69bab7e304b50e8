import { makerOf } from "@core/encodings";
import type { BoardOutput } from "@core/engine";
import { countLimits, lastStage } from "@core/gate";
import {
  type ComparedLine,
  comparisonOf,
  type DescribedBoard,
  type Greeting,
  type LinkHealthReport,
  LinkSession,
  type LinkState,
} from "@core/link";
import { type Board, byId, longestFrameLine, type Project } from "@core/project";
import { channelGroupsOf } from "@core/signal";
import type { StreamLife } from "@core/wire";
import type { LineWire, Link } from "./link";

/** A link to a board that makes pulses: the host's end of the line protocol, on whatever wire. */
export class PulseLink implements Link {
  readonly boardId: string;
  readonly mustBeGreeted = true;
  readonly #session: LinkSession;
  readonly #wire: LineWire;
  readonly #label: string;
  /** Since when nobody answers. */
  #silentSinceMs = Number.NaN;
  readonly #described: DescribedBoard;
  #comparedWith: Greeting | null = null;
  #said: readonly ComparedLine[] = [];
  #nowMs = 0;

  constructor(board: Board, project: Project, wire: LineWire, onInput: (name: string, value: number) => void) {
    this.boardId = board.id;
    this.#wire = wire;
    this.#label = board.label;
    const expected = expectedOf(board, project);
    this.#described = expected;
    this.#session = new LinkSession(expected, (bytes) => wire.send(bytes, this.#nowMs));
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

  isOnItsWay(channel: number): boolean {
    return this.#session.isOnItsWay(channel);
  }

  get positions(): Float64Array {
    return this.#session.positions;
  }

  get currentsMa(): Float64Array {
    return this.#session.currentsMa;
  }

  /** What is told to a board comes with its limits and its frames; a frame of more joints is longer. */
  follow(project: Project): void {
    this.#session.setFrameBytes(frameBytesOf(byId(project.boards, this.boardId), project));
  }

  limit({ staged, periodMs }: BoardOutput, nowMs: number): void {
    this.#nowMs = nowMs;
    const limits = staged.flatMap((one) => countLimits(one.channel, one.limits, periodMs) ?? []);
    this.#session.setLimits(limits, nowMs);
  }

  readonly nextWakeMs = Number.POSITIVE_INFINITY;

  /** It answers to bytes as they arrive, and has nothing else to do between frames. */
  wake(): void {}

  get life(): StreamLife {
    return this.#wire.life;
  }

  health(nowMs: number): LinkHealthReport {
    return this.#session.health.report(nowMs);
  }

  get greeting(): Greeting | null {
    return this.#session.greeting;
  }

  /** Compared once for each greeting. */
  get said(): readonly ComparedLine[] {
    const { greeting } = this.#session;
    if (greeting !== this.#comparedWith) {
      this.#comparedWith = greeting;
      this.#said = greeting ? comparisonOf(this.#described, greeting) : [];
    }
    return this.#said;
  }

  get strangeWords(): string | null {
    const { kind } = this.#session.state;
    if (this.life.kind !== "open" || kind === "live" || kind === "refused") return null;
    return this.#session.strange.sentence(this.#label, this.#nowMs - this.#silentSinceMs);
  }

  close(nowMs: number): void {
    this.#nowMs = nowMs;
    this.#wire.close();
  }

  tick(nowMs: number): void {
    this.#nowMs = nowMs;
    const isOpen = this.life.kind === "open";
    // Silence is counted from the moment at which somebody could have answered.
    if (!isOpen || this.state.kind === "live") this.#silentSinceMs = Number.NaN;
    else if (Number.isNaN(this.#silentSinceMs)) this.#silentSinceMs = nowMs;
    if (isOpen) this.#session.tick(nowMs);
    else {
      this.#session.wireLost();
      this.#session.strange.forget();
    }
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

const frameBytesOf = (board: Board, { joints }: Project) =>
  longestFrameLine(
    board,
    joints.filter(({ boardId }) => boardId === board.id).map(({ channel }) => channel),
  );

const expectedOf = (board: Board, project: Project) => ({
  label: board.label,
  countName: makerOf(board.encoding, board.frameHz[0] ?? 50).unit,
  channels: board.channels,
  groups: channelGroupsOf(board),
  silence: board.silence,
  frameBytes: frameBytesOf(board, project),
});
