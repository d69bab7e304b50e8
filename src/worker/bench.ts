import type { SurveyAsk, SurveyReport } from "@core/calibrate";
import { type Asked, type Command, Engine, head, setJoint } from "@core/engine";
import type { DeviceMemories } from "@core/files";
import { lastStage, registerLimits } from "@core/gate";
import { LinkSession } from "@core/link";
import { type Board, byId, type Joint, type Project, type TakeData } from "@core/project";
import { ok, problem, type Result } from "@core/result";
import { jointDegOf } from "@core/rig";
import { nextStartMs } from "@core/routine";
import { SimServo, truthOf } from "@core/sim";
import type { Recorded } from "@core/take";
import { BusLink, busWiringOf } from "./busLink";
import type { BusAsk, BusTold } from "./busMessages";
import { Lateness } from "./lateness";
import type { LinkReport } from "./messages";
import { inputNamesOf, SimLink, servosOn, wiringOf } from "./simLink";
import { SurveyRun } from "./surveyRun";

interface WiredLink {
  readonly link: SimLink | BusLink;
  readonly wiring: string;
  wasLive: boolean;
  /** How often the board had been met when that was looked at last. */
  timesMet: number;
}

const longestStepMs = 50;

/**
 * The bench without its clock: the engine, and a link for every board. Times are handed in, so a test runs an hour in
 * a second. This is the only place that sends, and all it sends has come through the engine's gate.
 */
export class Bench {
  /** Sees every byte that leaves for a board; for tests and for a person who watches the line. */
  onSent: (boardId: string, bytes: Uint8Array) => void = () => {};
  /** Hears what a bus has to tell the page. */
  onBus: (boardId: string, told: BusTold) => void = () => {};
  /** Hears in a sentence what went wrong with a board. */
  onFault: (sentence: string) => void = () => {};
  readonly #faulty = new Set<string>();
  /** When the clock that is handed in stood at 0, in ms since 1970: sources are moved by another page's clock. */
  epochMs = 0;
  readonly #engine = new Engine();
  /** When the sources were moved whose pulses have not left yet. */
  readonly #movedAtMs: number[] = [];
  readonly #inputLag = new Lateness();
  #project: Project | null = null;
  #links: WiredLink[] = [];
  readonly #servos = new Map<string, SimServo>();
  readonly #truths = new Map<string, string>();
  /** What the simulated devices on buses keep, whatever becomes of their links. */
  #memories: DeviceMemories = {};
  readonly #watchedBuses = new Set<string>();
  #survey: SurveyRun | null = null;
  /** When armed routines start next by their timetables, by id; both in ms since 1970. */
  #armed = new Map<string, { readonly sinceMs: number; nextMs: number }>();
  #lastMs = Number.NaN;

  /** Takes the document, or a changed one; what did not change lives on. */
  configure(project: Project, revision: number): void {
    const isSameProject = this.#project?.id === project.id;
    this.#faulty.clear();
    this.#project = project;
    for (const card of project.cards) {
      const truth = truthOf(card, project.simulated);
      const known = JSON.stringify(truth);
      if (this.#truths.get(card.id) === known) continue;
      this.#servos.set(card.id, new SimServo(truth));
      this.#truths.set(card.id, known);
    }
    const before = new Map(this.#links.map((wired) => [wired.link.boardId, wired]));
    this.#links = project.boards.map((board) => {
      const isBus = board.encoding.kind === "bus";
      const wiring = isBus ? busWiringOf(board, project) : wiringOf(board);
      const old = before.get(board.id);
      if (old?.wiring === wiring && (isSameProject || !isBus)) {
        if (old.link instanceof BusLink) old.link.project = project;
        else old.link.rewire(servosOn(board, project.joints, this.#servos), inputNamesOf(board, project));
        return old;
      }
      if (old?.link instanceof BusLink && isSameProject) this.#memories = { ...this.#memories, ...old.link.memories };
      const link = isBus ? this.#busLink(board, project) : this.#pulseLink(board, project);
      link.isPlugged = old?.link.isPlugged ?? true;
      return { link, wiring, wasLive: false, timesMet: 0 };
    });
    this.#engine.configure(project, revision);
    for (const [at, { link }] of this.#links.entries()) {
      const output = this.#engine.outputs[at];
      if (!output || !(link instanceof SimLink)) continue;
      const limits = output.staged.flatMap((one) => registerLimits(one.channel, one.limits, output.periodMs) ?? []);
      link.session.setLimits(limits, this.#lastMs);
    }
    // A board that has not been greeted yet takes nothing, and its servos are limp.
    for (const { link, wasLive } of this.#links)
      if (link instanceof SimLink && !wasLive) this.#engine.linkLost(link.boardId, true);
  }

  #pulseLink(board: Board, project: Project): SimLink {
    const servos = servosOn(board, project.joints, this.#servos);
    const onSent = (boardId: string, bytes: Uint8Array) => this.onSent(boardId, bytes);
    const link = new SimLink(board, servos, onSent, inputNamesOf(board, project));
    link.session.onInput = (name, value) => this.#engine.hear(board.id, name, value);
    return link;
  }

  #busLink(board: Board, project: Project): BusLink {
    const onSent = (boardId: string, bytes: Uint8Array) => this.onSent(boardId, bytes);
    // A device that is limp by itself is not held any more; whoever wants it holds it again.
    const onLimp = (jointId: string) => void this.#engine.apply({ kind: "release", jointId });
    const link = new BusLink(board, project, this.#servos, this.#memories, onSent, onLimp);
    link.onTold = (told) => this.onBus(board.id, told);
    if (this.#watchedBuses.has(board.id)) link.ask({ kind: "watch", isWatching: true }, 0);
    return link;
  }

  /** What the simulated devices kept when the page was closed; to be given before the document. */
  giveMemories(memories: DeviceMemories): void {
    this.#memories = memories;
  }

  askBus(boardId: string, ask: BusAsk, nowMs: number): void {
    // Who watches goes on watching when the bus is wired anew, and may have begun before there was one.
    if (ask.kind === "watch" && ask.isWatching) this.#watchedBuses.add(boardId);
    else if (ask.kind === "watch") this.#watchedBuses.delete(boardId);
    const link = this.#links.find((wired) => wired.link.boardId === boardId)?.link;
    if (link instanceof BusLink) link.ask(ask, nowMs);
  }

  /** Takes one command. A release of everything leaves at once, without waiting for the next frame. */
  command(command: Command, nowMs: number): Result<null> {
    if (this.#survey && touches(command, this.#survey.jointId)) this.#survey.end("It was stopped.");
    // A link that was made just now is greeted before anything is asked of its joints.
    for (const wired of this.#links)
      if (wired.link instanceof SimLink && wired.link.session.state.kind === "greeting") {
        wired.link.tick(nowMs);
        this.#watch(wired);
      }
    const done = this.#engine.apply(command);
    if (command.kind === "source" && command.atMs !== undefined && done.ok) this.#movedAtMs.push(command.atMs);
    if (command.kind === "releaseAll") for (const { link } of this.#links) link.session.releaseAll(nowMs);
    return done;
  }

  tick(nowMs: number): void {
    const dtMs = Number.isNaN(this.#lastMs) ? 0 : Math.min(Math.max(nowMs - this.#lastMs, 0), longestStepMs);
    this.#lastMs = nowMs;
    for (const wired of this.#links) {
      wired.link.tick(nowMs);
      this.#watch(wired);
    }
    this.#surveyOn(nowMs);
    if (this.#armed.size > 0) this.#startDue(nowMs);
    const joints = this.#project?.joints ?? [];
    for (let index = 0; index < joints.length; index += 1) {
      const joint = joints[index] as Joint;
      this.#engine.hearReading(index, this.#sessionOf(joint)?.positions[joint.channel] ?? Number.NaN);
    }
    this.#engine.tick(nowMs);
    const { outputs } = this.#engine;
    for (let at = 0; at < outputs.length; at += 1) {
      const output = outputs[at];
      const link = this.#links[at]?.link;
      if (!output || !link) continue;
      // A fault of one board is that board's: the others get their frames.
      try {
        if (output.isDue && link instanceof SimLink)
          lastStage(output.staged, output.registers, link.session.mayStand, output.periodMs);
        if (output.isDue) link.session.sendFrame(output.channels, output.registers, nowMs);
        link.advance(nowMs, dtMs);
      } catch (error) {
        this.#fault(output.boardId, error);
      }
    }
    this.#measureLag(nowMs);
  }

  /** Tells a person once, not fifty times a second, what went wrong with a board. */
  #fault(boardId: string, error: unknown): void {
    if (this.#faulty.has(boardId)) return;
    this.#faulty.add(boardId);
    const label = byId(this.#project?.boards ?? [], boardId).label;
    this.onFault(
      `${label} gets no frames any more: ${error instanceof Error ? error.message : String(error)} The other boards go on.`,
    );
  }

  /** What leads asked for that only the page can do, once. */
  takeAsked(): readonly Asked[] {
    return this.#engine.takeAsked();
  }

  giveTake(take: TakeData): void {
    this.#engine.giveTake(take);
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
  arm(routineIds: readonly string[], nowMs: number): void {
    const sinceMs = this.epochMs + nowMs;
    const before = this.#armed;
    this.#armed = new Map(routineIds.map((id) => [id, before.get(id) ?? { sinceMs, nextMs: Number.NaN }]));
  }

  /** Starts what is due. What was due while the bench was held up starts once; nothing is started over something that plays. */
  #startDue(nowMs: number): void {
    const epochMs = this.epochMs + nowMs;
    for (const [id, armed] of this.#armed) {
      const timetable = this.#project?.routines.find((routine) => routine.id === id)?.timetable;
      if (!timetable) continue;
      const offsetMin = new Date(epochMs).getTimezoneOffset();
      const isDue = epochMs >= armed.nextMs;
      if (isDue || Number.isNaN(armed.nextMs)) armed.nextMs = nextStartMs(timetable, epochMs, armed.sinceMs, offsetMin);
      if (isDue && !this.#engine.isPlaying) this.command({ kind: "play", routineId: id }, nowMs);
    }
  }

  /** A frame has left: all that was moved before it is on its way now. */
  #measureLag(nowMs: number): void {
    if (this.#movedAtMs.length === 0 || !this.#engine.outputs.some((output) => output.isDue)) return;
    for (const atMs of this.#movedAtMs) this.#inputLag.add(this.epochMs + nowMs - atMs);
    this.#movedAtMs.length = 0;
  }

  /** Starts the automatic run on a joint that its board can read. */
  survey(jointId: string, ask: SurveyAsk): Result<null> {
    const joint = this.#project?.joints.find((one) => one.id === jointId);
    const session = this.#sessionOf(joint);
    if (!joint || Number.isNaN(session?.positions[joint.channel] ?? Number.NaN))
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
    const session = this.#sessionOf(joint);
    const read = (values: Float64Array | undefined) => values?.[joint?.channel ?? -1] ?? Number.NaN;
    run.tick(nowMs, read(session?.positions), read(session?.currentsMa));
  }

  #sessionOf(joint: Joint | undefined): (SimLink | BusLink)["session"] | undefined {
    return this.#links.find(({ link }) => link.boardId === joint?.boardId)?.link.session;
  }

  get nextTickMs(): number {
    return this.#engine.nextTickMs;
  }

  plug(boardId: string, isPlugged: boolean): void {
    const wired = this.#links.find(({ link }) => link.boardId === boardId);
    if (wired) wired.link.isPlugged = isPlugged;
  }

  get linkReports(): readonly LinkReport[] {
    return this.#links.map(({ link }) => ({
      boardId: link.boardId,
      state: link.session.state.kind,
      sentence: link.session.state.kind === "refused" ? link.session.state.sentence : "",
      isPlugged: link.isPlugged,
    }));
  }

  /** Writes the live state, with where the simulated servos really stand. */
  write(snapshot: Float64Array): void {
    this.#engine.write(snapshot);
    snapshot[head.inputLagMs] = this.#inputLag.medianMs;
    snapshot[head.inputLag99Ms] = this.#inputLag.late99Ms;
    const joints = this.#project?.joints ?? [];
    for (let index = 0; index < joints.length; index += 1) {
      const joint = joints[index];
      const servo = joint && this.#servos.get(joint.cardId);
      if (!servo) continue;
      const seenDeg = servo.readDeg();
      setJoint(snapshot, index, "actual", joint.axis.kind === "angle" ? jointDegOf(joint.axis, seenDeg) : seenDeg);
      setJoint(snapshot, index, "isStalled", servo.isStalled ? 1 : 0);
      const session = this.#sessionOf(joint);
      setJoint(snapshot, index, "reading", session?.positions[joint.channel] ?? Number.NaN);
      setJoint(snapshot, index, "currentMa", session?.currentsMa[joint.channel] ?? Number.NaN);
    }
  }

  /** Tells the engine when a board has fallen silent, and when it answers again. */
  #watch(wired: WiredLink): void {
    const { session, boardId } = wired.link;
    const isLive = session.state.kind === "live";
    const timesMet = session instanceof LinkSession ? session.timesMet : 0;
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
    } else if (!wired.wasLive && isLive) {
      this.#engine.linkBack(boardId, session.wasLimp, session instanceof LinkSession ? session.heard : null);
    } else if (isLive && session instanceof LinkSession)
      this.#engine.linkWaits(boardId, session.isWaiting, session.heard);
    wired.wasLive = isLive;
  }
}

/** Whether a command asks something of a joint. */
const touches = (command: Command, jointId: string): boolean =>
  "jointId" in command
    ? command.jointId === jointId
    : ["releaseAll", "holdAll", "play", "goToPose", "record"].includes(command.kind);
