import type { Project, TakeData } from "@core/project";
import { emptyRoutine } from "@core/project";
import { ok, problem, type Result } from "@core/result";
import { bringingSpeeds } from "@core/rig";
import {
  type Company,
  jointsOf,
  noRoutine,
  phase,
  poseMove,
  RoutinePlayer,
  readyScore,
  type Score,
  scoreOfPose,
} from "@core/routine";
import type { Recorded } from "@core/take";
import type { Command } from "./commands";
import { type Happening, mayTake } from "./hands";
import { isMovable, type LiveJoint } from "./liveJoint";
import { head } from "./snapshot";
import { type RecordCommand, recordingStages, recordRefusal, Taking } from "./taking";

/** What the engine lets the performance see and touch. */
export interface Cast {
  readonly project: Project;
  readonly joints: readonly LiveJoint[];
  /** The wished target of each joint. */
  readonly wishes: Float64Array;
  /** The value of a source; NaN until it was touched. */
  readonly valueOf: (sourceId: string) => number;
  /** What happens to a joint may give it into other hands. */
  readonly happen: (joint: number, what: Happening) => boolean;
  /** Says a cue to other benches. */
  readonly sayCue: (name: string) => void;
}

export type PerformCommand = Extract<
  Command,
  {
    kind:
      | "goToPose"
      | "goTo"
      | "play"
      | "playOrPause"
      | "pause"
      | "seek"
      | "skip"
      | "loop"
      | "playSpeed"
      | "record"
      | "endRecord";
  }
>;

/**
 * What the engine performs: a routine, a move to a pose, and the recording of a take beside it. The joints that it has are
 * those whose owner is the routine.
 */
export class Performing {
  readonly #takes = new Map<string, TakeData>();
  #stage: Cast;
  #player: RoutinePlayer;
  #playing: { readonly kind: "routine" | "pose"; readonly id: string } | null = null;
  #taking: Taking | null = null;
  #recorded: Recorded | null = null;
  readonly #company: Company = {
    mine: (joint) => this.#has(joint),
    isMet: ({ sourceId, side, level }) => {
      const value = this.#stage.valueOf(sourceId);
      return side === "above" ? value > level : value < level;
    },
    sayCue: (name) => this.#stage.sayCue(name),
  };

  constructor(stage: Cast) {
    this.#stage = stage;
    this.#player = new RoutinePlayer(stage.wishes, new Float64Array(0), new Float64Array(0));
  }

  /** Takes the samples of a take; they never change once they are there. */
  giveTake(take: TakeData): void {
    this.#takes.set(take.id, take);
  }

  /** Takes the changed document. What plays goes on as that has it, or ends when it is gone, or when the joints are others. */
  configure(stage: Cast, isSameRow: boolean): void {
    const before = this.#stage.project;
    this.#stage = stage;
    if (!isSameRow) this.halt();
    const safe = Float64Array.from(stage.joints, ({ joint, card }) => bringingSpeeds(joint, card).safe);
    const fastest = Float64Array.from(stage.joints, ({ joint, card }) => bringingSpeeds(joint, card).fastest);
    if (isSameRow) {
      this.#player.retune(safe, fastest, this.#company);
      if (before !== stage.project) this.#replan(before);
      return;
    }
    const { speed, loop } = this.#player;
    this.#player = new RoutinePlayer(stage.wishes, safe, fastest);
    this.#player.speed = speed;
    this.#player.loop = loop;
  }

  perform(command: PerformCommand): Result<null> {
    if (this.#taking && movesTime.has(command.kind))
      return problem("A take is being recorded: its time runs on. End it first.");
    switch (command.kind) {
      case "goToPose":
      case "goTo":
      case "play":
        return this.#play(command);
      case "playOrPause":
        return this.perform(this.isPlaying ? { kind: "pause" } : { ...command, kind: "play" });
      case "record":
        return this.#record(command);
      case "endRecord":
        if (this.#taking) this.halt();
        return ok(null);
      case "pause":
        if (this.#player.phase === phase.paused) this.#goOn();
        else this.#player.pause();
        return ok(null);
      case "seek":
        if (!Number.isFinite(command.atMs)) return problem("That is not a moment of the routine.");
        this.#player.seek(command.atMs, this.#company);
        return ok(null);
      case "skip":
        this.#player.skip(command.by, this.#company);
        return ok(null);
      case "loop":
        if (command.range && !(Number.isFinite(command.range.fromMs) && Number.isFinite(command.range.toMs)))
          return problem("A loop goes from one moment of the routine to another.");
        this.#player.loop = command.range && command.range.toMs > command.range.fromMs ? command.range : null;
        return ok(null);
      case "playSpeed":
        if (!(command.speed >= 0.1 && command.speed <= 3)) return problem("A routine plays at 10 % to 300 %.");
        this.#player.speed = command.speed;
        return ok(null);
    }
  }

  /** Ends what plays, and keeps what was recorded. Its joints stay where they are, held, and nobody has them. */
  halt(): void {
    for (const joint of this.#stage.joints.keys()) this.#stage.happen(joint, "routineHalts");
    this.#letGo();
  }

  /** Lets time pass, before the gate. Gives the joints to be released: those of a routine that ends so. */
  advance(dtMs: number): readonly number[] {
    if (this.#player.phase === phase.paused && this.#taking?.countIn(dtMs)) this.#player.resume(this.#company);
    const { score } = this.#player;
    this.#player.advance(dtMs, this.#company);
    for (const joint of this.#taking?.punchIn(this.#player.atMs) ?? []) this.#stage.happen(joint, "routineOver");
    if (this.#player.score || !this.#playing) return [];
    const isOver = score?.routine.atEnd === "release" && this.#playing.kind === "routine";
    const limp = isOver ? [...this.#stage.joints.keys()].filter((joint) => this.#has(joint)) : [];
    this.#letGo();
    return limp;
  }

  /** Writes down what the gate has let through. */
  listen(): void {
    if (this.#player.phase === phase.playing && this.#taking?.listen(this.#stage.joints, this.#player.atMs))
      this.halt();
  }

  /** What is recorded so far; null while nothing is. */
  get recordedSoFar(): Recorded | null {
    return this.#taking?.recorded ?? null;
  }

  /** A take that is ready, once. */
  takeRecorded(): Recorded | null {
    const recorded = this.#recorded;
    this.#recorded = null;
    return recorded;
  }

  /** Whether a joint belongs to what plays, whoever has it now. */
  wants(joint: number): boolean {
    return !this.#taking?.arms(joint) && (this.#player.score?.tracks.some((track) => track.joint === joint) ?? false);
  }

  get isPlaying(): boolean {
    return this.#player.score !== null;
  }

  write(snapshot: Float64Array): void {
    const player = this.#player;
    const { routines } = this.#stage.project;
    const playing = this.#playing;
    snapshot[head.routineIndex] = !playing
      ? noRoutine
      : playing.kind === "pose"
        ? poseMove
        : routines.findIndex((routine) => routine.id === playing.id);
    snapshot[head.phase] = player.phase;
    snapshot[head.scoreMs] = player.atMs;
    snapshot[head.phaseMs] = this.#taking?.countInMs ?? player.phaseMs;
    snapshot[head.rounds] = player.rounds;
    snapshot[head.isReturning] = player.isReturning ? 1 : 0;
    snapshot[head.playSpeed] = player.speed;
    snapshot[head.recording] = this.#taking?.stage ?? recordingStages.none;
    snapshot[head.recordedMs] = this.#taking?.lengthMs ?? Number.NaN;
  }

  #play(command: Extract<Command, { kind: "play" | "goToPose" | "goTo" }>): Result<null> {
    const ready = this.#ready(command);
    if (!ready.ok) return ready;
    const score = ready.value;
    const first = score.missing[0];
    if (first)
      return problem(`The samples of the take “${this.#takeName(first.takeId)}” are not here. Remove its clip.`);
    const held = score.tracks.map((track) => track.joint).filter((joint) => isMovable(this.#stage.joints[joint]));
    if (held.length === 0) return problem("None of its joints can move: they are released. Hold them first.");
    this.halt();
    for (const joint of held) this.#claim(joint);
    const isRoutine = command.kind === "play";
    this.#playing = isRoutine
      ? { kind: "routine", id: command.routineId }
      : { kind: "pose", id: command.kind === "goTo" ? "" : command.poseId };
    if (!isRoutine) this.#player.loop = null;
    const from = {
      fromMs: (isRoutine && command.fromMs) || 0,
      isPaused: isRoutine && command.isPaused === true,
      isOpenEnded: false,
      isFromHere: !isRoutine,
    };
    this.#player.start(score, from, this.#company);
    return ok(null);
  }

  /** Takes a joint for what plays, unless somebody stands above it. */
  #claim(joint: number): void {
    const live = this.#stage.joints[joint];
    // Who stands above a routine keeps the joint; it gets it when that one gives it back.
    if (
      isMovable(live) &&
      mayTake(live.hands.kind, "routine", live.joint.control, { isTouched: true, isSteady: false })
    )
      this.#stage.happen(joint, "routineTakes");
  }

  #has(joint: number): boolean {
    return this.#stage.joints[joint]?.hands.kind === "routine";
  }

  #record(command: RecordCommand): Result<null> {
    const { project, joints: row } = this.#stage;
    const joints = command.jointIds.map((id) => row.findIndex((live) => live.joint.id === id));
    const refusal = recordRefusal(command, row, joints);
    if (refusal) return refusal;
    const routine = project.routines.find((one) => one.id === command.routineId) ?? emptyRoutine("take", "Take");
    const ready = readyScore(project, routine, this.#takes);
    if (!ready.ok) return ready;
    this.halt();
    const taking = new Taking(command, joints, row);
    this.#taking = taking;
    for (const { joint } of ready.value.tracks) if (!taking.arms(joint)) this.#claim(joint);
    this.#playing = { kind: "routine", id: routine.id };
    this.#player.loop = null;
    this.#player.start(
      ready.value,
      { fromMs: command.fromMs, isPaused: true, isOpenEnded: true, isFromHere: false },
      this.#company,
    );
    return ok(null);
  }

  /** After a pause joints that nobody has belong to the routine again. */
  #goOn(): void {
    for (const { joint } of this.#player.score?.tracks ?? [])
      if (this.wants(joint) && this.#stage.joints[joint]?.hands.kind === "free") this.#claim(joint);
    this.#player.resume(this.#company);
  }

  /** What played is over: nobody has its joints now, and they finish the way to where it sent them. */
  #letGo(): void {
    this.#player.stop();
    this.#playing = null;
    this.#recorded = this.#taking?.recorded ?? this.#recorded;
    this.#taking = null;
    for (const joint of this.#stage.joints.keys()) this.#stage.happen(joint, "routineOver");
  }

  #ready(command: Extract<Command, { kind: "play" | "goToPose" | "goTo" }>): Result<Score> {
    const { project } = this.#stage;
    if (command.kind !== "play") {
      const pose =
        command.kind === "goTo"
          ? { id: "", name: "There", group: "", targets: command.targets }
          : project.poses.find((candidate) => candidate.id === command.poseId);
      if (!pose) return problem("That pose is no longer on the bench.");
      if (!Object.values(pose.targets).every(Number.isFinite)) return problem("One of its targets is not a number.");
      if (!(command.moveMs >= 0 && Number.isFinite(command.moveMs))) return problem("A move takes 0 s or longer.");
      return scoreOfPose({ ...project, poses: [pose] }, pose, command.moveMs);
    }
    const routine = project.routines.find((candidate) => candidate.id === command.routineId);
    if (!routine) return problem("That routine is no longer on the bench.");
    if (jointsOf(project, routine).length === 0) return problem(`${routine.name} moves nothing yet. Add a move first.`);
    return readyScore(project, routine, this.#takes);
  }

  #scoreOfPlaying(): Score | null {
    const playing = this.#playing;
    const routine = playing && this.#stage.project.routines.find((one) => one.id === playing.id);
    const ready = routine && readyScore(this.#stage.project, routine, this.#takes);
    return ready?.ok ? ready.value : null;
  }

  /** Goes on as the changed document has it, where that changes anything for what plays. */
  #replan(before: Project): void {
    const { project } = this.#stage;
    const playing = this.#playing;
    if (playing?.kind !== "routine" || !this.#player.score || this.#taking) return;
    const isGone = project.routines.every((routine) => routine.id !== playing.id);
    if (isGone) {
      this.halt();
      return;
    }
    const isSame =
      before.routines === project.routines && before.poses === project.poses && before.takes === project.takes;
    if (isSame) return;
    const score = this.#scoreOfPlaying();
    if (score && score.tracks.length > 0) this.#player.replan(score, this.#company);
    else this.halt();
  }

  #takeName = (takeId: string) => this.#stage.project.takes.find((take) => take.id === takeId)?.name ?? takeId;
}

/** What would tear a take apart. */
const movesTime: ReadonlySet<PerformCommand["kind"]> = new Set([
  "playOrPause",
  "pause",
  "seek",
  "skip",
  "loop",
  "playSpeed",
]);
