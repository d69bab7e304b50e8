import type { Board, Project } from "@core/project";
import type { RealWire } from "@core/wire";
import type { Simulation } from "../simulation/simulation";
import type { ByteStream } from "../wires";
import { BusLink } from "./busLink";
import type { BusAsk, BusTold } from "./busMessages";
import type { Link } from "./link";
import { PulseLink } from "./pulseLink";
import { RealLine } from "./realLine";
import { RealPackets } from "./realPackets";

/** What a bench needs to reach anything real; without it every board is simulated. */
export interface Outside {
  readonly openStream: (wire: RealWire) => ByteStream;
  /** The clock of the bench, for bytes that arrive between two ticks. */
  readonly nowMs: () => number;
}

/** Who hears what the links have to say. */
export interface LinkEars {
  readonly onSent: (boardId: string, bytes: Uint8Array) => void;
  /** A board says a number by a name. */
  readonly onInput: (boardId: string, name: string, value: number) => void;
  /** A device is limp by itself. */
  readonly onLimp: (jointId: string) => void;
  readonly onNews: (sentence: string, isBad: boolean) => void;
  readonly onBus: (boardId: string, told: BusTold) => void;
  readonly onStirred: () => void;
}

/** Makes the link to each board: of its kind, and on its wire, real or simulated. It knows the buses among them, and who watches which. */
export class LinkMaker {
  readonly #simulation: Simulation;
  readonly #outside: Outside | null;
  readonly #ears: LinkEars;
  readonly #buses = new Map<string, BusLink>();
  readonly #watchedBuses = new Set<string>();

  constructor(simulation: Simulation, outside: Outside | null, ears: LinkEars) {
    this.#simulation = simulation;
    this.#outside = outside;
    this.#ears = ears;
  }

  make(board: Board, project: Project): Link {
    return board.encoding.kind === "bus" ? this.#busLink(board, project) : this.#pulseLink(board, project);
  }

  /** Asks something of a bus. Who watches goes on watching when the bus is wired anew, and may have begun before there was one. */
  askBus(boardId: string, ask: BusAsk): void {
    if (ask.kind === "watch") {
      if (ask.isWatching) this.#watchedBuses.add(boardId);
      else this.#watchedBuses.delete(boardId);
      this.#simulation.watch(boardId, ask.isWatching);
    }
    this.#buses.get(boardId)?.ask(ask);
  }

  #pulseLink(board: Board, project: Project): Link {
    this.#buses.delete(board.id);
    const line = this.#realLine(board) ?? this.#simulation.beginBoard(board, project);
    return new PulseLink(board, project, line, (name, value) => this.#ears.onInput(board.id, name, value));
  }

  #busLink(board: Board, project: Project): Link {
    const { onNews, onBus, onStirred, onLimp } = this.#ears;
    const onTold = (told: BusTold) => onBus(board.id, told);
    const wire = this.#realPackets(board) ?? this.#simulation.beginBus(board, project);
    const link = new BusLink(board, project, wire, { onNews, onTold, onStirred, onLimp });
    this.#buses.set(board.id, link);
    if (this.#watchedBuses.has(board.id)) link.ask({ kind: "watch", isWatching: true });
    return link;
  }

  /** The line to a board on a wire of its own; null for a simulated one. */
  #realLine({ link, id }: Board): RealLine | null {
    if (link.kind === "simulated" || !this.#outside) return null;
    this.#simulation.forget(id);
    const onSent = (bytes: Uint8Array) => this.#ears.onSent(id, bytes);
    return new RealLine(this.#outside.openStream(link), this.#outside.nowMs, onSent);
  }

  /** The wire to a bus behind an adapter; null for a simulated one. */
  #realPackets({ link, id }: Board): RealPackets | null {
    if (link.kind === "simulated" || !this.#outside) return null;
    this.#simulation.forget(id);
    const bitsPerS = "bitsPerS" in link ? link.bitsPerS : 0;
    const onSent = (bytes: Uint8Array) => this.#ears.onSent(id, bytes);
    return new RealPackets(this.#outside.openStream(link), bitsPerS, this.#outside.nowMs, onSent);
  }
}
