import type { SurveyAsk, SurveyReport } from "@core/calibrate";
import { type Asked, type BoardOutput, type Command, Engine, head, setJoint } from "@core/engine";
import type { DeviceMemories } from "@core/files";
import type { LinkHealthReport } from "@core/link";
import { byId, type Joint, type Project, type TakeData } from "@core/project";
import { ok, problem, type Result } from "@core/result";
import { jointDegOf } from "@core/rig";
import type { Recorded } from "@core/take";
import { dequal } from "dequal";
import { Lateness } from "./lateness";
import type { BusAsk, BusTold } from "./links/busMessages";
import { type Link, wiringOf } from "./links/link";
import { LinkMaker, type Outside } from "./links/linkMaker";
import type { LinkReport } from "./messages";
import { Simulation } from "./simulation/simulation";
import type { TableReport } from "./simulation/simulationMessages";
import { SurveyRun } from "./surveyRun";
import { Timetables } from "./timetables";

/** A board as the bench lives with it: what goes to it, and the way there. */
interface WiredBoard {
  readonly link: Link;
  readonly output: BoardOutput;
  readonly wiring: readonly unknown[];
  wasLive: boolean;
  /** How often the board had been met when that was looked at last. */
  timesMet: number;
}

const longestStepMs = 50;
/** Where no board takes a frame, what was moved is on its way to nowhere: no more of it is kept. */
const unsentAtMost = 1000;

/**
 * The bench without its clock: the engine, and a link for every board. Times are handed in, so a test runs an hour in
 * a second. This is the only place that sends, and all it sends has come through the engine's gate.
 */
export class Bench {
  /** Sees every byte that leaves for a board; for tests and for a person who watches the line. */
  onSent: (boardId: string, bytes: Uint8Array) => void = () => {};
  /** Hears what a person should know of a board, in a sentence. */
  onNews: (sentence: string, isBad: boolean) => void = () => {};
  /** Hears what a bus has to tell somebody who watches it. */
  onBus: (boardId: string, told: BusTold) => void = () => {};
  /** Hears what lies on the table of a simulated bus that somebody watches. */
  onTable: (report: TableReport) => void = () => {};
  /** Hears what simulated devices keep without supply. */
  onMemories: (memories: DeviceMemories) => void = () => {};
  /** Hears in a sentence what went wrong with a board. */
  onFault: (sentence: string) => void = () => {};
  /** Hears that something on a wire is to be done sooner than it was. */
  onStirred: () => void = () => {};
  readonly #faulty = new Set<string>();
  /** When the clock that is handed in stood at 0, in ms since 1970: sources are moved by another page's clock. */
  epochMs = 0;
  /** The computer's own clock, in ms since 1970. Only timetables go by it: it may be set, and goes on while the computer sleeps. */
  dateMs: () => number = Date.now;
  readonly #engine = new Engine();
  /** When the sources were moved whose pulses have not left yet. */
  readonly #movedAtMs: number[] = [];
  readonly #inputLag = new Lateness();
  /** The far ends of all links, while nothing real is plugged in. */
  readonly simulation = new Simulation({
    onSent: (boardId, bytes) => this.onSent(boardId, bytes),
    onMemories: (memories) => this.onMemories(memories),
    onTable: (report) => this.onTable(report),
    onOut: (boardId, volts) =>
      this.onNews(
        `${byId(this.#project?.boards ?? [], boardId).label} went out and starts anew: only ${volts.toFixed(1)} V reached it. Its servos are limp; see to its supply at Power, then hold them again.`,
        true,
      ),
  });
  #project: Project | null = null;
  #boards: readonly WiredBoard[] = [];
  readonly #links: LinkMaker;
  #survey: SurveyRun | null = null;
  readonly #timetables = new Timetables();
  #turns = 0;
  #lastMs = Number.NaN;

  constructor(outside: Outside | null = null) {
    this.#links = new LinkMaker(this.simulation, outside, {
      onSent: (boardId, bytes) => this.onSent(boardId, bytes),
      onInput: (boardId, name, value) => this.#engine.hear(boardId, name, value),
      // It is not held any more; whoever wants it holds it again.
      onLimp: (jointId) => void this.#engine.apply({ kind: "release", jointId }),
      onNews: (sentence, isBad) => this.onNews(sentence, isBad),
      onBus: (boardId, told) => this.onBus(boardId, told),
      onStirred: () => this.onStirred(),
    });
  }

  /** Takes the document, or a changed one; what did not change lives on. */
  configure(project: Project, revision: number): void {
    this.#faulty.clear();
    this.#project = project;
    this.simulation.configure(project);
    this.#engine.configure(project, revision);
    const before = new Map(this.#boards.map((wired) => [wired.link.boardId, wired]));
    const boards: WiredBoard[] = [];
    for (const output of this.#engine.outputs)
      this.#apart(output.boardId, () => boards.push(this.#wired(project, output, before.get(output.boardId))));
    this.#boards = boards;
    for (const [boardId, { link }] of before)
      if (!this.#boards.some((now) => now.link.boardId === boardId))
        this.#apart(boardId, () => link.close(this.#lastMs));
    for (const { link, output, wasLive } of this.#boards) {
      this.#apart(link.boardId, () => link.limit(output, this.#lastMs));
      if (link.mustBeGreeted && !wasLive) this.#engine.linkLost(link.boardId, true);
    }
  }

  /** A board with the link that it had, where that is wired as before. */
  #wired(project: Project, output: BoardOutput, old: WiredBoard | undefined): WiredBoard {
    const board = byId(project.boards, output.boardId);
    const wiring = wiringOf(board, project);
    if (old && dequal(old.wiring, wiring)) {
      old.link.follow(project);
      return { ...old, output };
    }
    if (old) this.#apart(board.id, () => old.link.close(this.#lastMs));
    return { link: this.#links.make(board, project), output, wiring, wasLive: false, timesMet: 0 };
  }

  askBus(boardId: string, ask: BusAsk): void {
    this.#links.askBus(boardId, ask);
  }

  /** Takes one command. A release of everything leaves at once, without waiting for the next frame, and whatever breaks on the way. */
  command(command: Command, nowMs: number): Result<null> {
    if (command.kind !== "releaseAll") return this.#take(command, nowMs);
    try {
      return this.#take(command, nowMs);
    } finally {
      this.#releaseAll(nowMs);
    }
  }

  #take(command: Command, nowMs: number): Result<null> {
    if (this.#survey && touches(command, this.#survey.jointId)) this.#survey.end("It was stopped.");
    // A link that was made just now is greeted before anything is asked of its joints; and what it said since the last tick counts.
    for (const wired of this.#boards) {
      const { link } = wired;
      if (link.mustBeGreeted && link.state.kind === "greeting") this.#apart(link.boardId, () => link.tick(nowMs));
      this.#watch(wired);
    }
    const done = this.#engine.apply(command);
    if (command.kind === "source" && command.atMs !== undefined && done.ok) this.#movedAtMs.push(command.atMs);
    return done;
  }

  /** Lets everything go at once, and says which board it could not tell. */
  #releaseAll(nowMs: number): void {
    for (const { link } of this.#boards) {
      const isTold = this.#apart(link.boardId, () => link.releaseAll(nowMs));
      const isHeard = link.life.kind === "open" && (link.state.kind === "live" || this.simulation.has(link.boardId));
      if (isTold && isHeard) continue;
      const { label, silence } = byId(this.#project?.boards ?? [], link.boardId);
      const meanwhile =
        silence.action === "release"
          ? `it lets go by itself after ${silence.afterMs} ms without a word`
          : "it holds on by itself: switch its supply off";
      this.onNews(`${label} could not be told to release: it does not answer; ${meanwhile}.`, true);
    }
  }

  /** When something is to be done next: a frame, or what a wire waits for. */
  get nextWakeMs(): number {
    let nextMs = this.#engine.nextTickMs;
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

  tick(nowMs: number): void {
    const dtMs = Number.isNaN(this.#lastMs) ? 0 : Math.min(Math.max(nowMs - this.#lastMs, 0), longestStepMs);
    this.#lastMs = nowMs;
    for (let at = 0; at < this.#boards.length; at += 1) {
      const wired = this.#boards[at] as WiredBoard;
      try {
        wired.link.tick(nowMs);
      } catch (error) {
        this.#fault(wired.link.boardId, error);
      }
      this.#watch(wired);
    }
    this.#surveyOn(nowMs);
    if (this.#timetables.isArmed) this.#playDue(nowMs);
    const joints = this.#project?.joints ?? [];
    for (let index = 0; index < joints.length; index += 1) {
      const joint = joints[index] as Joint;
      this.#engine.hearReading(index, this.#linkOf(joint)?.positions[joint.channel] ?? Number.NaN);
    }
    this.#engine.tick(nowMs);
    this.simulation.bear(nowMs, dtMs);
    for (let at = 0; at < this.#boards.length; at += 1) {
      const { link, output } = this.#boards[at] as WiredBoard;
      try {
        if (output.isDue) link.send(output, nowMs);
        this.simulation.advance(link.boardId, nowMs, dtMs);
      } catch (error) {
        this.#fault(output.boardId, error);
      }
    }
    if (this.#engine.isPlaying || this.simulation.isTurning) this.#turns += 1;
    this.#measureLag(nowMs);
  }

  #playDue(nowMs: number): void {
    for (const routineId of this.#timetables.due(this.dateMs(), this.#project)) {
      if (this.#engine.isPlaying) continue;
      const begun = this.command({ kind: "play", routineId }, nowMs);
      if (begun.ok) continue;
      const name = this.#project?.routines.find(({ id }) => id === routineId)?.name;
      this.onNews(`“${name}” did not start by its timetable. ${begun.problem}`, true);
    }
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
    this.onFault(`${label} met a fault of the bench's own (${why}). The other boards go on.`);
  }

  /** Another machine said a number, under a key of `afarKeys`. Says whether a source waits for it. */
  hearFrom(key: string, value: number): boolean {
    return this.#engine.hearFrom(key, value);
  }

  /** Whether the last tick sent a frame. */
  get hasSent(): boolean {
    return this.#engine.outputs.some((output) => output.isDue);
  }

  /** What leads asked for that only the page can do, once. */
  takeAsked(): readonly Asked[] {
    return this.#engine.takeAsked();
  }

  giveTake(take: TakeData): void {
    this.#engine.giveTake(take);
  }

  /** Whether a routine plays, stands paused, or the bench goes to a pose. */
  get isPlaying(): boolean {
    return this.#engine.isPlaying;
  }

  /** Whether some timetable is armed. */
  get isArmed(): boolean {
    return this.#timetables.isArmed;
  }

  /** Gives up all its wires: every board on one is told to let go. */
  end(nowMs: number): void {
    for (const { link } of this.#boards) this.#apart(link.boardId, () => link.close(nowMs));
    this.#boards = [];
  }

  /** What is recorded so far; null while nothing is. */
  get recordedSoFar(): Recorded | null {
    return this.#engine.recordedSoFar;
  }

  /** A take that is ready, once. */
  takeRecorded(): Recorded | null {
    return this.#engine.takeRecorded();
  }

  /** Lets these routines, and no others, start by their timetables. What is armed already keeps its time. */
  arm(routineIds: readonly string[]): void {
    this.#timetables.arm(routineIds, this.dateMs());
  }

  /** A frame has left: all that was moved before it is on its way now. */
  #measureLag(nowMs: number): void {
    if (this.#movedAtMs.length > unsentAtMost) this.#movedAtMs.length = 0;
    if (this.#movedAtMs.length === 0 || !this.hasSent) return;
    for (const atMs of this.#movedAtMs) this.#inputLag.add(this.epochMs + nowMs - atMs);
    this.#movedAtMs.length = 0;
  }

  /** Starts the automatic run on a joint that its board can read. */
  survey(jointId: string, ask: SurveyAsk): Result<null> {
    const joint = this.#project?.joints.find((one) => one.id === jointId);
    const link = this.#linkOf(joint);
    if (!joint || Number.isNaN(link?.positions[joint.channel] ?? Number.NaN))
      return problem("This servo cannot be read: its board reports no position for its channel.");
    this.endSurvey();
    const held = this.#engine.apply({ kind: "hold", jointId });
    if (!held.ok) return held;
    this.#survey = new SurveyRun(this.#engine, jointId, ask);
    return ok(null);
  }

  endSurvey(): void {
    this.#survey?.end("It was stopped.");
  }

  /** The automatic run that was started last, on which joint; null before the first. */
  get surveyNow(): { readonly jointId: string; readonly report: SurveyReport } | null {
    return this.#survey && { jointId: this.#survey.jointId, report: this.#survey.report };
  }

  #surveyOn(nowMs: number): void {
    const run = this.#survey;
    if (!run || run.isOver) return;
    const joint = this.#project?.joints.find((one) => one.id === run.jointId);
    const link = this.#linkOf(joint);
    const read = (values: Float64Array | undefined) => values?.[joint?.channel ?? -1] ?? Number.NaN;
    try {
      run.tick(nowMs, read(link?.positions), read(link?.currentsMa));
    } catch (error) {
      run.end(`It met a fault of its own: ${String(error)}`);
    }
  }

  #linkOf(joint: Joint | undefined): Link | undefined {
    return this.#boards.find(({ link }) => link.boardId === joint?.boardId)?.link;
  }

  get nextTickMs(): number {
    return this.#engine.nextTickMs;
  }

  get linkReports(): readonly LinkReport[] {
    return this.#boards.map(({ link: { boardId, state, life, strangeWords, said, greeting } }) => ({
      boardId,
      isReal: this.#project?.boards.some(({ id, link }) => id === boardId && link.kind !== "simulated") ?? false,
      state: state.kind,
      life: life.kind,
      sentence: life.kind === "lost" ? life.sentence : state.kind === "refused" ? state.sentence : (strangeWords ?? ""),
      said,
      greeting,
      isPlugged: this.simulation.isPlugged(boardId),
    }));
  }

  /** How each link did lately, by board. */
  healthAt(nowMs: number): Readonly<Record<string, LinkHealthReport>> {
    return Object.fromEntries(this.#boards.map(({ link }) => [link.boardId, link.health(nowMs)]));
  }

  /** Counts whatever is asked and whatever turns: while it stays the same, the bench rests. What trembles or creeps by itself does not count. */
  get movements(): number {
    return this.#engine.movements + this.#turns;
  }

  /** Writes the live state, with where the simulated servos really stand. */
  write(snapshot: Float64Array): void {
    this.#engine.write(snapshot);
    snapshot[head.inputLagMs] = this.#inputLag.medianMs;
    snapshot[head.inputLag99Ms] = this.#inputLag.late99Ms;
    const joints = this.#project?.joints ?? [];
    for (let index = 0; index < joints.length; index += 1) {
      const joint = joints[index];
      const link = this.#linkOf(joint);
      if (joint && link) {
        setJoint(snapshot, index, "reading", link.positions[joint.channel] ?? Number.NaN);
        setJoint(snapshot, index, "currentMa", link.currentsMa[joint.channel] ?? Number.NaN);
      }
      if (!joint) continue;
      const servo = this.simulation.has(joint.boardId) ? this.simulation.servoOf(joint.cardId) : undefined;
      if (!servo) {
        // Where a real servo stands nobody sees but by what it reads.
        setJoint(snapshot, index, "actual", this.#engine.seenAt(index));
        setJoint(snapshot, index, "isStalled", 0);
        continue;
      }
      const seenDeg = servo.readDeg();
      setJoint(snapshot, index, "actual", joint.axis.kind === "angle" ? jointDegOf(joint.axis, seenDeg) : seenDeg);
      setJoint(snapshot, index, "isStalled", servo.isStalled ? 1 : 0);
    }
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
    else if (isLive && heard) this.#engine.linkWaits(boardId, isWaiting, heard);
    wired.wasLive = isLive;
  }
}

/** Whether a command asks something of a joint. */
const touches = (command: Command, jointId: string): boolean =>
  "jointId" in command
    ? command.jointId === jointId
    : ["releaseAll", "holdAll", "play", "goToPose", "goTo", "record"].includes(command.kind);
