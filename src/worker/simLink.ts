import { makerOf } from "@core/encodings";
import { LinkSession } from "@core/link";
import type { Board, Joint, Project } from "@core/project";
import { channelGroupsOf } from "@core/signal";
import { SimBoard, type SimServo } from "@core/sim";

/**
 * A link to a simulated board: the host's session at one end, the board at the other, and between them a cable that
 * carries bytes and can be pulled.
 */
export class SimLink {
  readonly boardId: string;
  readonly session: LinkSession;
  isPlugged = true;
  readonly #board: SimBoard;
  #nowMs = 0;

  constructor(
    board: Board,
    servos: ReadonlyMap<number, SimServo>,
    onSent: (boardId: string, bytes: Uint8Array) => void,
    inputNames: readonly string[],
  ) {
    this.boardId = board.id;
    const answer = (bytes: Uint8Array) => {
      if (this.isPlugged) this.session.receive(bytes, this.#nowMs);
    };
    this.#board = new SimBoard(board, servos, answer, inputNames);
    this.session = new LinkSession(expectedOf(board), (bytes) => {
      onSent(board.id, bytes);
      if (this.isPlugged) this.#board.receive(bytes, this.#nowMs);
    });
  }

  /** Other servos on its channels: the board lives on, and with it what it puts out. */
  rewire(servos: ReadonlyMap<number, SimServo>, inputNames: readonly string[]): void {
    this.#board.plugServos(servos, inputNames);
  }

  tick(nowMs: number): void {
    this.#nowMs = nowMs;
    this.session.tick(nowMs);
  }

  /** Lets the board and its servos live on; also while the cable is pulled. */
  advance(nowMs: number, dtMs: number): void {
    this.#nowMs = nowMs;
    this.#board.advance(nowMs, dtMs);
  }
}

const expectedOf = (board: Board) => ({
  label: board.label,
  countName: makerOf(board.encoding, board.frameHz[0] ?? 50).unit,
  channels: board.channels,
  groups: channelGroupsOf(board),
  silence: board.silence,
});

/** The simulated servos on a board's channels. */
export function servosOn(board: Board, joints: readonly Joint[], servos: ReadonlyMap<string, SimServo>) {
  const plugged = new Map<number, SimServo>();
  for (const joint of joints) {
    const servo = servos.get(joint.cardId);
    if (joint.boardId === board.id && servo) plugged.set(joint.channel, servo);
  }
  return plugged;
}

/** The lines that a simulated board sends: those that are wired to it; the first board sends those that may come from any. */
export const inputNamesOf = (board: Board, project: Project): readonly string[] =>
  project.sources.flatMap(({ origin }) =>
    origin.kind === "line" && (origin.boardId ?? project.boards[0]?.id) === board.id ? [origin.name] : [],
  );

/** What a link depends on; while this stays the same, a changed project leaves the link alone. With another way of making signals a board begins anew. */
export const wiringOf = ({ id, channels, encoding, frameHz, silence, link }: Board): string =>
  JSON.stringify([id, channels, encoding, frameHz, silence, link]);
