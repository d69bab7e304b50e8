import type { Board, Joint, Project } from "@core/project";
import { SimBoard, type SimServo } from "@core/sim";
import type { LineWire } from "../links/link";

/** A simulated board and the cable to it, which carries bytes and can be pulled. */
export class SimBoardEnd implements LineWire {
  readonly life = { kind: "open" } as const;
  isPlugged = true;
  onBytes: LineWire["onBytes"] = () => {};
  readonly #boardId: string;
  readonly #board: SimBoard;
  readonly #servos: ReadonlyMap<string, SimServo>;
  readonly #onSent: (boardId: string, bytes: Uint8Array) => void;
  #nowMs = 0;

  constructor(
    board: Board,
    project: Project,
    servos: ReadonlyMap<string, SimServo>,
    onSent: (boardId: string, bytes: Uint8Array) => void,
  ) {
    this.#boardId = board.id;
    this.#servos = servos;
    this.#onSent = onSent;
    const answer = (bytes: Uint8Array) => {
      if (this.isPlugged) this.onBytes(bytes, this.#nowMs);
    };
    this.#board = new SimBoard(
      board,
      servosOn(board.id, project.joints, servos),
      answer,
      inputNamesOf(board.id, project),
    );
  }

  /** Other servos on its channels: the board lives on, and with it what it puts out. */
  follow(project: Project): void {
    this.#board.plugServos(servosOn(this.#boardId, project.joints, this.#servos), inputNamesOf(this.#boardId, project));
  }

  send(bytes: Uint8Array, nowMs: number): void {
    this.#nowMs = nowMs;
    this.#onSent(this.#boardId, bytes);
    if (this.isPlugged) this.#board.receive(bytes, nowMs);
  }

  close(): void {}

  /** What reaches the board, in V. Says whether it has just gone out. */
  supply(volts: number, nowMs: number): boolean {
    return this.#board.supply(volts, nowMs);
  }

  /** Lets the board and its servos live on; also while the cable is pulled. */
  advance(nowMs: number, dtMs: number): void {
    this.#nowMs = nowMs;
    this.#board.advance(nowMs, dtMs);
  }
}

/** The simulated servos on a board's channels. */
function servosOn(boardId: string, joints: readonly Joint[], servos: ReadonlyMap<string, SimServo>) {
  const plugged = new Map<number, SimServo>();
  for (const joint of joints) {
    const servo = servos.get(joint.cardId);
    if (joint.boardId === boardId && servo) plugged.set(joint.channel, servo);
  }
  return plugged;
}

/** The lines that a simulated board sends: those that are wired to it; the first board sends those that may come from any. */
const inputNamesOf = (boardId: string, project: Project): readonly string[] =>
  project.sources.flatMap(({ origin }) =>
    origin.kind === "line" && (origin.boardId ?? project.boards[0]?.id) === boardId ? [origin.name] : [],
  );
