import type { BoardOutput, Engine } from "@core/engine";
import type { LinkHealthReport } from "@core/link";
import { byId, type Joint, type Project } from "@core/project";
import { dequal } from "dequal";
import { type Link, wiringOf } from "./links/link";
import type { LinkMaker } from "./links/linkMaker";
import type { LinkReport } from "./messages";
import type { Simulation } from "./simulation/simulation";

/** A board as the bench lives with it: what goes to it, and the way there. */
interface WiredBoard {
  readonly link: Link;
  readonly output: BoardOutput;
  readonly wiring: readonly unknown[];
  wasLive: boolean;
  /** How often the board had been met when that was looked at last. */
  timesMet: number;
  /** Of its link: made once, and not each tick. */
  readonly isOnItsWay: (channel: number) => boolean;
}

/** Who hears in sentences what goes wrong with a board. */
interface Ears {
  readonly onNews: (sentence: string, isBad: boolean) => void;
  readonly onFault: (sentence: string) => void;
}

/** The boards of a bench with their links: what the engine makes for them goes out here, and what becomes of them is told to it. A fault of one is that one's. */
export class WiredBoards {
  readonly #engine: Engine;
  readonly #links: LinkMaker;
  readonly #simulation: Simulation;
  readonly #ears: Ears;
  readonly #faulty = new Set<string>();
  #project: Project | null = null;
  #boards: readonly WiredBoard[] = [];

  constructor(engine: Engine, links: LinkMaker, simulation: Simulation, ears: Ears) {
    this.#engine = engine;
    this.#links = links;
    this.#simulation = simulation;
    this.#ears = ears;
  }

  /** Takes the boards of a document that the engine has taken. Those that are wired as before keep their links. */
  configure(project: Project, lastMs: number): void {
    this.#faulty.clear();
    this.#project = project;
    const before = new Map(this.#boards.map((wired) => [wired.link.boardId, wired]));
    const boards: WiredBoard[] = [];
    for (const output of this.#engine.outputs)
      this.#apart(output.boardId, () => boards.push(this.#wired(project, output, before.get(output.boardId), lastMs)));
    this.#boards = boards;
    for (const [boardId, { link }] of before)
      if (!boards.some((now) => now.link.boardId === boardId)) this.#apart(boardId, () => link.close(lastMs));
    for (const { link, output, wasLive } of boards) {
      this.#apart(link.boardId, () => link.limit(output, lastMs));
      if (link.mustBeGreeted && !wasLive) this.#engine.linkLost(link.boardId, true);
    }
  }

  /** A board with the link that it had, where that is wired as before. */
  #wired(project: Project, output: BoardOutput, old: WiredBoard | undefined, lastMs: number): WiredBoard {
    const board = byId(project.boards, output.boardId);
    const wiring = wiringOf(board, project);
    if (old && dequal(old.wiring, wiring)) {
      old.link.follow(project);
      return { ...old, output };
    }
    if (old) this.#apart(board.id, () => old.link.close(lastMs));
    const link = this.#links.make(board, project);
    return { link, output, wiring, wasLive: false, timesMet: 0, isOnItsWay: (channel) => link.isOnItsWay(channel) };
  }

  /** Before a command: a link that was made just now is greeted before anything is asked of its joints; and what it said since the last tick counts. */
  meet(nowMs: number): void {
    for (const wired of this.#boards) {
      const { link } = wired;
      if (link.mustBeGreeted && link.state.kind === "greeting") this.#apart(link.boardId, () => link.tick(nowMs));
      this.#watch(wired);
    }
  }

  /** Lets everything go at once, and says which board it could not tell. */
  releaseAll(nowMs: number): void {
    for (const { link } of this.#boards) {
      const isTold = this.#apart(link.boardId, () => link.releaseAll(nowMs));
      const isHeard = link.life.kind === "open" && (link.state.kind === "live" || this.#simulation.has(link.boardId));
      if (isTold && isHeard) continue;
      const { label, silence } = byId(this.#project?.boards ?? [], link.boardId);
      const meanwhile =
        silence.action === "release"
          ? `it lets go by itself after ${silence.afterMs} ms without a word`
          : "it holds on by itself: switch its supply off";
      this.#ears.onNews(`${label} could not be told to release: it does not answer; ${meanwhile}.`, true);
    }
  }

  /** When a wire has something to do next; `frameMs` where none has before that. */
  nextWakeMs(frameMs: number): number {
    let nextMs = frameMs;
    for (const { link } of this.#boards)
      try {
        if (link.nextWakeMs < nextMs) nextMs = link.nextWakeMs;
      } catch (error) {
        this.#fault(link.boardId, error);
      }
    return nextMs;
  }

  /** Does what is due between two frames. */
  wake(nowMs: number): void {
    for (const { link } of this.#boards)
      try {
        if (link.nextWakeMs <= nowMs) link.wake(nowMs);
      } catch (error) {
        this.#fault(link.boardId, error);
      }
  }

  /** Hears what the boards have said, before the engine's tick. */
  tick(nowMs: number): void {
    for (let at = 0; at < this.#boards.length; at += 1) {
      const wired = this.#boards[at] as WiredBoard;
      try {
        wired.link.tick(nowMs);
      } catch (error) {
        this.#fault(wired.link.boardId, error);
      }
      this.#watch(wired);
    }
  }

  /** Sends what is due, after the engine's tick. */
  send(nowMs: number, dtMs: number): void {
    for (let at = 0; at < this.#boards.length; at += 1) {
      const { link, output } = this.#boards[at] as WiredBoard;
      try {
        if (output.isDue) link.send(output, nowMs);
        this.#simulation.advance(link.boardId, nowMs, dtMs);
      } catch (error) {
        this.#fault(output.boardId, error);
      }
    }
  }

  /** Gives up all wires: every board on one is told to let go. */
  end(nowMs: number): void {
    for (const { link } of this.#boards) this.#apart(link.boardId, () => link.close(nowMs));
    this.#boards = [];
  }

  linkOf(joint: Joint | undefined): Link | undefined {
    return this.#boards.find(({ link }) => link.boardId === joint?.boardId)?.link;
  }

  get reports(): readonly LinkReport[] {
    return this.#boards.map(({ link: { boardId, state, life, strangeWords, said, greeting } }) => ({
      boardId,
      isReal: this.#project?.boards.some(({ id, link }) => id === boardId && link.kind !== "simulated") ?? false,
      state: state.kind,
      life: life.kind,
      sentence: life.kind === "lost" ? life.sentence : state.kind === "refused" ? state.sentence : (strangeWords ?? ""),
      said,
      greeting,
      isPlugged: this.#simulation.isPlugged(boardId),
    }));
  }

  /** How each link did lately, by board. */
  healthAt(nowMs: number): Readonly<Record<string, LinkHealthReport>> {
    return Object.fromEntries(this.#boards.map(({ link }) => [link.boardId, link.health(nowMs)]));
  }

  /** A fault of one board is that board's: the others get their frames, and are let go when all are. Says whether it went well. */
  #apart(boardId: string, act: () => void): boolean {
    try {
      act();
      return true;
    } catch (error) {
      this.#fault(boardId, error);
      return false;
    }
  }

  /** Tells a person once, not fifty times a second, what went wrong with a board. */
  #fault(boardId: string, error: unknown): void {
    if (this.#faulty.has(boardId)) return;
    this.#faulty.add(boardId);
    const label = this.#project?.boards.find(({ id }) => id === boardId)?.label ?? "A board";
    const why = error instanceof Error ? error.message : String(error);
    this.#ears.onFault(`${label} met a fault of the bench's own (${why}). The other boards go on.`);
  }

  /** Tells the engine when a board has fallen silent, and when it answers again. */
  #watch(wired: WiredBoard): void {
    const { boardId, state, timesMet, wasLimp, isWaiting, heard } = wired.link;
    const isLive = state.kind === "live";
    // Lost and found again since the last look: what happened in between happened all the same.
    if (wired.wasLive && isLive && timesMet !== wired.timesMet) {
      wired.wasLive = false;
      this.#engine.linkLost(boardId, false);
    }
    wired.timesMet = timesMet;
    if (wired.wasLive && !isLive) {
      const board = byId(this.#project?.boards ?? [], boardId);
      // Whether it has let go already, or will in a moment: its joints are limp here as well.
      this.#engine.linkLost(boardId, board.silence.action === "release");
    } else if (!wired.wasLive && isLive) this.#engine.linkBack(boardId, wasLimp, heard);
    else if (isLive && heard) this.#engine.linkWaits(boardId, isWaiting, heard, wired.isOnItsWay);
    wired.wasLive = isLive;
  }
}
