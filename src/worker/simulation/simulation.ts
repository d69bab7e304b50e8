import type { DeviceMemories } from "@core/files";
import type { Board, Project, ServoTruth } from "@core/project";
import { Burdens, SimPower, SimServo, truthOf } from "@core/sim";
import { dequal } from "dequal";
import type { LineWire, PacketWire } from "../links/link";
import { SimBoardEnd } from "./simBoardEnd";
import { SimBusEnd } from "./simBusEnd";
import type { SimulationAsk, TableReport } from "./simulationMessages";

/** A sagging servo is a matter of tenths of a second. */
const weighEveryMs = 60;

/** What the simulation tells. */
export interface SimulationEars {
  /** Bytes have left for a board; also while its plug is out. */
  readonly onSent: (boardId: string, bytes: Uint8Array) => void;
  /** What devices on buses keep without supply has changed. */
  readonly onMemories: (memories: DeviceMemories) => void;
  /** What lies on the table of a bus that somebody watches. */
  readonly onTable: (report: TableReport) => void;
  /** A board has gone out for want of voltage. */
  readonly onOut: (boardId: string, volts: number) => void;
}

/** All that is simulated: servos, the boards and buses at the far ends of links, their plugs and their faults. It hears bytes, and nothing else of the bench. */
export class Simulation {
  readonly #ears: SimulationEars;
  readonly #servos = new Map<string, SimServo>();
  readonly #truths = new Map<string, ServoTruth>();
  readonly #boards = new Map<string, SimBoardEnd>();
  readonly #buses = new Map<string, SimBusEnd>();
  #burdens: Burdens | null = null;
  #power: SimPower | null = null;
  /** The joint that each card is built into. */
  #jointOf = new Map<string, string>();
  #weighedMs = Number.NEGATIVE_INFINITY;
  readonly #unplugged = new Set<string>();
  readonly #watched = new Set<string>();
  /** What the devices on buses keep, whatever becomes of their links. */
  #memories: DeviceMemories = {};
  #projectId: string | null = null;

  constructor(ears: SimulationEars) {
    this.#ears = ears;
  }

  /** What the devices kept when the page was closed; to be given before the document. */
  giveMemories(memories: DeviceMemories): void {
    this.#memories = memories;
  }

  /** Takes the document before its links are made: servos live on where nothing is known otherwise of them. */
  configure(project: Project): void {
    // Another project has other devices, whose memories were handed over before it.
    if (this.#projectId === project.id) for (const bus of this.#buses.values()) this.#keepMemories(bus);
    this.#projectId = project.id;
    for (const card of project.cards) {
      const truth = truthOf(card, project.simulated);
      if (dequal(this.#truths.get(card.id), truth)) continue;
      this.#servos.set(card.id, new SimServo(truth));
      this.#truths.set(card.id, truth);
    }
    this.#burdens = new Burdens(project);
    this.#power = SimPower.of(project);
    for (const servo of this.#servos.values()) servo.supplyShare = 1;
    this.#jointOf = new Map(project.joints.map(({ id, cardId }) => [cardId, id]));
    this.#weighedMs = Number.NEGATIVE_INFINITY;
    for (const ends of [this.#boards, this.#buses])
      for (const id of ends.keys()) if (!project.boards.some((board) => board.id === id)) ends.delete(id);
    for (const board of this.#boards.values()) board.follow(project);
  }

  /** A board that makes pulses begins, with the servos that are plugged into it. */
  beginBoard(board: Board, project: Project): LineWire {
    const end = new SimBoardEnd(board, project, this.#servos, this.#ears.onSent);
    end.isPlugged = !this.#unplugged.has(board.id);
    this.#buses.delete(board.id);
    this.#boards.set(board.id, end);
    return end;
  }

  /** A bus begins, with the devices on it as they were left. */
  beginBus(board: Board, project: Project): PacketWire {
    const onStored = () => {
      const bus = this.#buses.get(board.id);
      if (!bus) return;
      this.#keepMemories(bus);
      this.#ears.onMemories(bus.memories);
    };
    const end = new SimBusEnd(board, project, this.#servos, this.#memories, this.#ears.onSent, onStored);
    end.isPlugged = !this.#unplugged.has(board.id);
    end.feedBy((cardId) => this.#power?.voltsAt("joint", this.#jointOf.get(cardId) ?? "") ?? Number.NaN);
    this.#boards.delete(board.id);
    this.#buses.set(board.id, end);
    this.#tell(board.id);
    return end;
  }

  /** A board is on a wire of its own now: nothing of it is simulated. */
  forget(boardId: string): void {
    this.#boards.delete(boardId);
    this.#buses.delete(boardId);
  }

  /** Whether the far end of this board is simulated. */
  has(boardId: string): boolean {
    return this.#boards.has(boardId) || this.#buses.has(boardId);
  }

  /** Has the figures weigh on the servos as they stand now, and the supplies feed them and their boards. */
  bear(nowMs: number, dtMs: number): void {
    // Weights change no faster than a servo could feel.
    if (nowMs - this.#weighedMs >= weighEveryMs) {
      this.#weighedMs = nowMs;
      this.#burdens?.weigh(this.#servoOf);
    }
    if (!this.#power) return;
    this.#power.step(dtMs, this.#servoOf);
    for (const [boardId, board] of this.#boards) {
      const volts = this.#power.voltsAt("board", boardId);
      if (!Number.isNaN(volts) && board.supply(volts, nowMs)) this.#ears.onOut(boardId, volts);
    }
  }
  readonly #servoOf = (cardId: string) => this.#servos.get(cardId);

  /** Lets what is at the far end of a link live on. */
  advance(boardId: string, nowMs: number, dtMs: number): void {
    (this.#boards.get(boardId) ?? this.#buses.get(boardId))?.advance(nowMs, dtMs);
  }

  ask(boardId: string, ask: SimulationAsk, nowMs: number): void {
    if (ask.kind === "plug") {
      if (ask.isPlugged) this.#unplugged.delete(boardId);
      else this.#unplugged.add(boardId);
      const board = this.#boards.get(boardId);
      if (board) board.isPlugged = ask.isPlugged;
    }
    this.#buses.get(boardId)?.ask(ask, nowMs);
    this.#tell(boardId);
  }

  /** Somebody watches what lies on the table of a bus, or no more. */
  watch(boardId: string, isWatching: boolean): void {
    if (isWatching) this.#watched.add(boardId);
    else this.#watched.delete(boardId);
    this.#tell(boardId);
  }

  isPlugged(boardId: string): boolean {
    return !this.#unplugged.has(boardId);
  }

  /** Whether a servo is on its way to where it was told; one that turns on and on is on its way nowhere. */
  get isTurning(): boolean {
    for (const servo of this.#servos.values()) if (servo.isTurning && servo.isPositional) return true;
    return false;
  }

  servoOf(cardId: string): SimServo | undefined {
    return this.#servos.get(cardId);
  }

  #keepMemories(bus: SimBusEnd): void {
    this.#memories = { ...this.#memories, ...bus.memories };
  }

  #tell(boardId: string): void {
    const bus = this.#buses.get(boardId);
    if (bus && this.#watched.has(boardId)) this.#ears.onTable(bus.table);
  }
}
