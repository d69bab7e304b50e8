import { LinkSession } from "@core/link";
import type { Board, Joint, Project } from "@core/project";
import { channelMakersOf, framePeriodsUs, type SignalMaker } from "@core/signal";
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
  ) {
    this.boardId = board.id;
    this.#board = new SimBoard(board, servos, (bytes) => {
      if (this.isPlugged) this.session.receive(bytes, this.#nowMs);
    });
    this.session = new LinkSession(expectedOf(board, channelMakersOf(board)), (bytes) => {
      onSent(board.id, bytes);
      if (this.isPlugged) this.#board.receive(bytes, this.#nowMs);
    });
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

const expectedOf = (board: Board, makers: readonly SignalMaker[]) => ({
  label: board.label,
  registerName: makers[0]?.unit ?? ("count" as const),
  channels: board.channels,
  highestRegister: Math.max(...makers.map((maker) => maker.highestRegister)),
  periodsUs: framePeriodsUs(board),
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

/** What a link depends on; while this stays the same, a changed project leaves the link alone. */
export const wiringOf = (board: Board, project: Project): string =>
  JSON.stringify([
    board,
    project.joints.filter((joint) => joint.boardId === board.id).map((joint) => [joint.channel, joint.cardId]),
  ]);
