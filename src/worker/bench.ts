import type { SurveyAsk, SurveyReport } from "@core/calibrate";
import { type Asked, type Command, Engine, head, setJoint } from "@core/engine";
import type { DeviceMemories } from "@core/files";
import type { LinkHealthReport } from "@core/link";
import { byId, type Joint, type Project, type TakeData } from "@core/project";
import { ok, problem, type Result } from "@core/result";
import { jointDegOf } from "@core/rig";
import type { Recorded } from "@core/take";
import { Lateness } from "./lateness";
import type { BusAsk, BusTold } from "./links/busMessages";
import { LinkMaker, type Outside } from "./links/linkMaker";
import type { LinkReport } from "./messages";
import { Simulation } from "./simulation/simulation";
import type { TableReport } from "./simulation/simulationMessages";
import { SurveyRun } from "./surveyRun";
import { Timetables } from "./timetables";
import { WiredBoards } from "./wiredBoards";

const longestStepMs = 50;
/** Where no board takes a frame, what was moved is on its way to nowhere: no more of it is kept. */
const unsentAtMost = 1000;

/**
 * The bench without its clock: the engine, and a link for every board. Times are handed in, so a test runs an hour in
 * a second. Its boards (`WiredBoards`) are the only place that sends, and all that they send has come through the engine's gate.
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
  readonly #boards: WiredBoards;
  readonly #links: LinkMaker;
  #survey: SurveyRun | null = null;
  /** Whether the last document was laid out to its end. */
  #isWhole = true;
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
    this.#boards = new WiredBoards(this.#engine, this.#links, this.simulation, {
      onNews: (sentence, isBad) => this.onNews(sentence, isBad),
      onFault: (sentence) => this.onFault(sentence),
    });
  }

  /** Takes the document, or a changed one; what did not change lives on. Where it breaks on the way, nothing is held until one is laid out whole. */
  configure(project: Project, revision: number): void {
    this.#isWhole = false;
    this.#layOut(project, revision);
    this.#isWhole = true;
  }

  #layOut(project: Project, revision: number): void {
    this.#project = project;
    this.simulation.configure(project);
    this.#engine.configure(project, revision);
    this.#boards.configure(project, this.#lastMs);
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
      this.#boards.releaseAll(nowMs);
    }
  }

  #take(command: Command, nowMs: number): Result<null> {
    if (!this.#isWhole && !letsGo.has(command.kind)) return notWhole;
    if (this.#survey && touches(command, this.#survey.jointId)) this.#survey.end("It was stopped.");
    this.#boards.meet(nowMs);
    const done = this.#engine.apply(command);
    if (command.kind === "source" && command.atMs !== undefined && done.ok) this.#movedAtMs.push(command.atMs);
    return done;
  }

  /** When something is to be done next: a frame, or what a wire waits for. */
  get nextWakeMs(): number {
    return this.#boards.nextWakeMs(this.#engine.nextTickMs);
  }

  /** Does what is due between two frames. */
  wake(nowMs: number): void {
    this.#boards.wake(nowMs);
  }

  tick(nowMs: number): void {
    const dtMs = Number.isNaN(this.#lastMs) ? 0 : Math.min(Math.max(nowMs - this.#lastMs, 0), longestStepMs);
    this.#lastMs = nowMs;
    this.#boards.tick(nowMs);
    this.#surveyOn(nowMs);
    if (this.#timetables.isArmed) this.#playDue(nowMs);
    const joints = this.#project?.joints ?? [];
    for (let index = 0; index < joints.length; index += 1) {
      const joint = joints[index] as Joint;
      this.#engine.hearReading(index, this.#boards.linkOf(joint)?.positions[joint.channel] ?? Number.NaN);
    }
    this.#engine.tick(nowMs);
    this.simulation.bear(nowMs, dtMs);
    this.#boards.send(nowMs, dtMs);
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
    this.#boards.end(nowMs);
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
    if (!this.#isWhole) return notWhole;
    const joint = this.#project?.joints.find((one) => one.id === jointId);
    const link = this.#boards.linkOf(joint);
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
    const link = this.#boards.linkOf(joint);
    const read = (values: Float64Array | undefined) => values?.[joint?.channel ?? -1] ?? Number.NaN;
    try {
      run.tick(nowMs, read(link?.positions), read(link?.currentsMa));
    } catch (error) {
      run.end(`It met a fault of its own: ${String(error)}`);
    }
  }

  get linkReports(): readonly LinkReport[] {
    return this.#boards.reports;
  }

  /** How each link did lately, by board. */
  healthAt(nowMs: number): Readonly<Record<string, LinkHealthReport>> {
    return this.#boards.healthAt(nowMs);
  }

  get nextTickMs(): number {
    return this.#engine.nextTickMs;
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
      const link = this.#boards.linkOf(joint);
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
}

const notWhole = problem("The last change could not be laid on the bench. Undo it, or load the page again.");

/** What is taken at any time. */
const letsGo: ReadonlySet<Command["kind"]> = new Set(["releaseAll", "release", "stop", "letGo"]);

/** Whether a command asks something of a joint. */
const touches = (command: Command, jointId: string): boolean =>
  "jointId" in command
    ? command.jointId === jointId
    : ["releaseAll", "holdAll", "play", "goToPose", "goTo", "record"].includes(command.kind);
