import { type BusSession, layoutById, readAll, type WireEvent } from "@core/bus";
import type { Project } from "@core/project";
import type { BusAsk, BusReport } from "./busMessages";

const reportEveryMs = 100;
const eventsAtMost = 600;

type Watch = Extract<BusAsk, { kind: "watchRegisters" }>["watch"];

/** Watches a bus for a person: what is said on the wire, how its devices are, and registers that are read over and over. */
export class BusWatch {
  readonly #boardId: string;
  readonly #session: BusSession;
  #isWatching = false;
  #events: WireEvent[] = [];
  #reportedMs = Number.NEGATIVE_INFINITY;
  #watch: Watch = null;
  #watched: Map<number, number> | null = null;
  #watchedMs = 0;

  constructor(boardId: string, session: BusSession) {
    this.#boardId = boardId;
    this.#session = session;
  }

  set isWatching(isWatching: boolean) {
    this.#isWatching = isWatching;
    this.#events = [];
    this.#session.wire.onEvent = isWatching ? (event) => this.#keep(event) : null;
    this.#reportedMs = Number.NEGATIVE_INFINITY;
  }

  /** Registers of one device, read over and over; null for none. */
  set registers(watch: Watch) {
    this.#watch = watch;
    this.#watched = null;
  }

  /** Reads what is watched once it is time for it. */
  readOn(nowMs: number, project: Project): void {
    const watch = this.#watch;
    if (!watch || this.#session.isBusy || nowMs - this.#watchedMs < watch.everyMs) return;
    const layout = layoutById(project, watch.layoutId);
    if (!layout) return;
    this.#watchedMs = nowMs;
    const registers = layout.registers.filter(({ address }) => watch.addresses.includes(address));
    this.#session.run(
      readAll({ ...layout, registers }, watch.id),
      () => {},
      (values) => {
        if (this.#watch === watch) this.#watched = new Map(values);
      },
    );
  }

  /** The report that is due, if one is. */
  report(nowMs: number, nowUs: number): BusReport | null {
    if (!this.#isWatching || nowMs - this.#reportedMs < reportEveryMs) return null;
    this.#reportedMs = nowMs;
    const events = this.#events;
    this.#events = [];
    return {
      boardId: this.#boardId,
      atUs: nowUs,
      devices: this.#session.states,
      events,
      watched: this.#watched,
      framesSent: this.#session.framesSent,
      framesDropped: this.#session.framesDropped,
    };
  }

  #keep(event: WireEvent): void {
    this.#events.push(event);
    if (this.#events.length > eventsAtMost) this.#events.shift();
  }
}
