import { heldBack, passGate } from "@core/gate";
import { shapingOf } from "@core/inputs";
import type { Project } from "@core/project";
import { ok, problem, type Result } from "@core/result";
import type { JointMap } from "@core/rig";
import { noRoutine, type Plan, planPose, planRoutine, RoutinePlayer } from "@core/routine";
import { BoardOutput } from "./boardOutput";
import type { Command } from "./commands";
import { beginPress, carryOver, enliven, isMovable, isSameWire, type LiveJoint, pressOn, release } from "./liveJoint";
import { head, owner, pressing, setJoint, setSource } from "./snapshot";

interface LiveLead {
  readonly source: number;
  readonly joint: number;
  readonly shape: (value: number) => number;
}

type MotionCommand = Extract<Command, { kind: "home" | "target" | "setPoint" | "jog" }>;

/** However long the bench was held up, a tick moves things on by no more than this. */
const longestStepMs = 50;
const defaultTickMs = 20;

/**
 * The heart of the bench: commands in, frames out, one step at a time.
 * It owns no clock, no link and no storage; `tick(nowMs)` is handed the time, so the same commands at the same times
 * give the same bytes. Sources → leads → who has the joint → wishes → gate → registers.
 */
export class Engine {
  outputs: readonly BoardOutput[] = [];
  missedFrames = 0;
  #project: Project | null = null;
  #joints: LiveJoint[] = [];
  #leads: readonly LiveLead[] = [];
  #wishes = new Float64Array(0);
  #sources = new Float64Array(0);
  #isTouched = new Uint8Array(0);
  #player = new RoutinePlayer(this.#wishes);
  #playing: { readonly kind: "routine" | "pose"; readonly id: string } | null = null;
  #lastMs = Number.NaN;
  #frames = 0;
  #revision = 0;
  readonly #isRoutines = (joint: number) => this.#joints[joint]?.owner === owner.routine;

  /**
   * Takes the document, or a changed one. A held joint keeps its **set point**, not its angle: a new calibration, zero
   * or direction must never make a servo jump. A joint that moved to another board, channel or servo is released.
   */
  configure(project: Project, revision: number): void {
    const before = new Map(this.#joints.map((live, index) => [live.joint.id, { live, wish: this.#wishes[index] }]));
    const sourcesBefore = new Map(this.#project?.sources.map((source, at) => [source.id, this.#sources[at]]));
    const isSameRow = project.joints.map((joint) => joint.id).join() === [...before.keys()].join();
    this.outputs = project.boards.map((board) => {
      const output = new BoardOutput(board, project.joints);
      const old = this.outputs.find((candidate) => candidate.boardId === board.id);
      output.nextFrameMs = old?.nextFrameMs ?? Number.NaN;
      output.isSilent = old?.isSilent ?? false;
      return output;
    });
    const wishes = isSameRow ? this.#wishes : new Float64Array(project.joints.length);
    this.#joints = project.joints.map((joint, index) => {
      const live = enliven(project, joint, this.outputs);
      const old = before.get(joint.id);
      wishes[index] = live.limits.map.homeTarget;
      live.passage.target = live.limits.map.homeTarget;
      if (old && isSameWire(old.live.joint, joint)) wishes[index] = carryOver(old.live, old.wish as number, live);
      return live;
    });
    this.#leads = project.leads.map((lead) => ({
      source: project.sources.findIndex((source) => source.id === lead.sourceId),
      joint: project.joints.findIndex((joint) => joint.id === lead.jointId),
      shape: shapingOf(lead.shapers),
    }));
    this.#sources = Float64Array.from(project.sources, (source) => sourcesBefore.get(source.id) ?? Number.NaN);
    this.#isTouched = new Uint8Array(project.sources.length);
    this.#project = project;
    this.#revision = revision;
    if (!isSameRow) {
      this.#wishes = wishes;
      this.#halt();
      this.#player = new RoutinePlayer(wishes);
    } else this.#replan(project);
  }

  /** Takes one command. What cannot be done is answered with a sentence and changes nothing. */
  apply(command: Command): Result<null> {
    switch (command.kind) {
      case "releaseAll":
        this.#halt();
        for (const live of this.#joints) release(live);
        return ok(null);
      case "holdAll":
        for (const index of this.#joints.keys()) this.#hold(index);
        return ok(null);
      case "stop":
        this.#halt();
        return ok(null);
      case "source":
        return this.#touch(command.sourceId, command.value);
      case "goToPose":
      case "play":
        return this.#play(command);
      default:
        return this.#command(command);
    }
  }

  /**
   * One step of the bench at this moment, in ms of a clock that never runs backwards.
   * Afterwards `outputs` says for each board whether its frame is due, and what is in it.
   */
  tick(nowMs: number): void {
    const dtMs = Number.isNaN(this.#lastMs) ? 0 : Math.min(Math.max(nowMs - this.#lastMs, 0), longestStepMs);
    this.#lastMs = nowMs;
    this.#followLeads();
    this.#player.advance(dtMs, this.#isRoutines);
    if (!this.#player.plan && this.#playing) this.#letGo();
    for (let index = 0; index < this.#joints.length; index += 1) {
      const live = this.#joints[index] as LiveJoint;
      if (live.press) this.#wishes[index] = pressOn(live.press, nowMs, this.#wishes[index] as number);
      if (live.isHeld) {
        passGate(live.isCalibrating ? live.openLimits : live.limits, this.#wishes[index] as number, dtMs, live.passage);
        if (live.isLimpAtRest && live.passage.target === 0 && !live.isCalibrating) {
          live.passage.register = Number.NaN;
          live.passage.setPoint = Number.NaN;
        }
      }
      live.output.registers[live.slot] = live.passage.register;
    }
    for (const output of this.outputs) {
      this.missedFrames += output.schedule(nowMs);
      if (output.isDue) this.#frames += 1;
    }
  }

  /** Whether a joint is held and being calibrated: nothing else has been asked of it, and nobody has released it. */
  isCalibrating(jointId: string): boolean {
    return this.#joints.find((live) => live.joint.id === jointId)?.isCalibrating ?? false;
  }

  /** When the next frame of any board is due. */
  get nextTickMs(): number {
    let nextMs = Number.POSITIVE_INFINITY;
    for (const output of this.outputs) nextMs = Math.min(nextMs, output.nextFrameMs);
    return Number.isFinite(nextMs) ? nextMs : this.#lastMs + defaultTickMs;
  }

  /**
   * A board fell silent: its joints stop being asked for anything new, and what played ends, so that nothing has
   * moved on when it answers again. When it lets its servos go limp by itself, its joints are released here too.
   */
  linkLost(boardId: string, isLimp: boolean): void {
    const output = this.outputs.find((candidate) => candidate.boardId === boardId);
    if (!output) return;
    output.isSilent = true;
    this.#halt();
    this.#settle(output, isLimp);
  }

  /**
   * A board answers again. When its servos are limp, nobody knows where they hang: its joints are released, and to hold
   * them again is for a person to say.
   */
  linkBack(boardId: string, isLimp: boolean): void {
    const output = this.outputs.find((candidate) => candidate.boardId === boardId);
    if (!output?.isSilent) return;
    output.isSilent = false;
    this.#settle(output, isLimp);
  }

  /** Writes the live state into a snapshot (see `snapshot.ts`); what only a board can tell is left as it is. */
  write(snapshot: Float64Array): void {
    snapshot[head.revision] = this.#revision;
    snapshot[head.frames] = this.#frames;
    snapshot[head.missedFrames] = this.missedFrames;
    snapshot[head.routineIndex] = this.#player.plan?.routineIndex ?? noRoutine;
    snapshot[head.moveIndex] = this.#player.moveIndex;
    snapshot[head.elapsedMs] = this.#player.elapsedMs;
    snapshot[head.rounds] = this.#player.rounds;
    for (let index = 0; index < this.#joints.length; index += 1) {
      const live = this.#joints[index] as LiveJoint;
      setJoint(snapshot, index, "isHeld", live.isHeld ? 1 : 0);
      setJoint(snapshot, index, "owner", live.owner);
      setJoint(snapshot, index, "wish", this.#wishes[index] as number);
      setJoint(snapshot, index, "target", live.passage.target);
      setJoint(snapshot, index, "register", live.passage.register);
      setJoint(snapshot, index, "setPoint", live.passage.setPoint);
      setJoint(snapshot, index, "pressing", live.press?.phase ?? pressing.none);
      setJoint(snapshot, index, "heldBack", live.isHeld ? live.passage.heldBack : heldBack.nothing);
    }
    for (let source = 0; source < this.#sources.length; source += 1)
      setSource(snapshot, this.#joints.length, source, this.#sources[source] as number);
  }

  #command(command: Extract<Command, { jointId: string }>): Result<null> {
    const index = this.#joints.findIndex((live) => live.joint.id === command.jointId);
    const live = this.#joints[index];
    if (!live) return problem("That joint is no longer on the bench.");
    if (command.kind === "release") {
      this.#stay(index);
      release(live);
      return ok(null);
    }
    if (command.kind === "calibrate" && !command.isOn) {
      this.#endCalibrating(index);
      return ok(null);
    }
    if (live.output.isSilent) return problem(`${live.output.label} does not answer. See to its link first.`);
    if (command.kind === "hold") {
      this.#hold(index);
      return ok(null);
    }
    if (!live.isHeld) return problem(`${live.joint.label} is released and stays limp. Hold it first (H).`);
    if (command.kind === "calibrate") {
      live.isCalibrating = true;
      return ok(null);
    }
    if (command.kind === "press") return this.#press(index, command);
    const isBySetPoint = command.kind === "setPoint" || (command.kind === "jog" && command.in === "setPoint");
    live.isCalibrating &&= isBySetPoint;
    const { map } = live.isCalibrating ? live.openLimits : live.limits;
    const wish = wishOf(command, map, this.#wishes[index] as number);
    if (!Number.isFinite(wish)) return problem(`What was asked of ${live.joint.label} is not a number.`);
    live.owner = owner.hand;
    live.press = null;
    this.#wishes[index] = wish;
    return ok(null);
  }

  /** The limits are in force again. What presses goes back, and what turned to be measured does not go on turning. */
  #endCalibrating(index: number): void {
    const live = this.#joints[index] as LiveJoint;
    this.#endPress(index);
    if (live.isCalibrating && live.joint.axis.kind === "spin") this.#wishes[index] = live.limits.map.homeTarget;
    live.isCalibrating = false;
  }

  #press(index: number, command: Extract<Command, { kind: "press" }>): Result<null> {
    const live = this.#joints[index] as LiveJoint;
    const from = beginPress(live, command, this.#lastMs);
    if (!Number.isFinite(from)) return problem(`What was asked of ${live.joint.label} is not a number.`);
    live.owner = owner.hand;
    this.#wishes[index] = from;
    return ok(null);
  }

  /** Where a step against a stop is cut short, the joint goes back at once. */
  #endPress(index: number): void {
    const live = this.#joints[index] as LiveJoint;
    if (live.press) this.#wishes[index] = live.press.backTo;
    live.press = null;
  }

  #touch(sourceId: string, value: number): Result<null> {
    const source = this.#project?.sources.findIndex((candidate) => candidate.id === sourceId) ?? -1;
    if (source < 0) return problem("That source is no longer on the bench.");
    if (!Number.isFinite(value)) return problem("A source can only give numbers.");
    this.#sources[source] = value;
    this.#isTouched[source] = 1;
    return ok(null);
  }

  #play(command: Extract<Command, { kind: "play" | "goToPose" }>): Result<null> {
    const planned = this.#planOf(command);
    if (!planned.ok) return planned;
    const plan = planned.value;
    const joints = new Set(plan.moves.flatMap((move) => move.joints));
    const held = [...joints].filter((joint) => isMovable(this.#joints[joint]));
    if (held.length === 0) return problem("None of its joints can move: they are released. Hold them first.");
    this.#halt();
    for (const joint of held) {
      const live = this.#joints[joint] as LiveJoint;
      this.#stay(joint);
      live.owner = owner.routine;
      live.isCalibrating = false;
      live.press = null;
    }
    this.#playing =
      command.kind === "play" ? { kind: "routine", id: command.routineId } : { kind: "pose", id: command.poseId };
    this.#player.start(plan);
    return ok(null);
  }

  #planOf(command: Extract<Command, { kind: "play" | "goToPose" }>): Result<Plan> {
    const project = this.#project;
    if (command.kind === "goToPose") {
      const pose = project?.poses.find((candidate) => candidate.id === command.poseId);
      if (!project || !pose) return problem("That pose is no longer on the bench.");
      if (!(command.moveMs >= 0)) return problem("A move takes 0 s or longer.");
      return ok(planPose(project, pose, command.moveMs));
    }
    const routine = project?.routines.find((candidate) => candidate.id === command.routineId);
    if (!project || !routine) return problem("That routine is no longer on the bench.");
    if (routine.steps.length === 0) return problem(`${routine.name} has no moves yet. Add one first.`);
    return ok(planRoutine(project, routine));
  }

  #hold(index: number): void {
    const live = this.#joints[index] as LiveJoint;
    if (live.isHeld || live.output.isSilent) return;
    live.isHeld = true;
    live.owner = owner.nobody;
    this.#stay(index);
  }

  /** Asks a joint for nothing but to stay where the gate last put it. */
  #stay(index: number): void {
    const live = this.#joints[index] as LiveJoint;
    this.#wishes[index] = live.passage.target;
  }

  /** Leaves a silent or returning board's joints where they are, limp or not. */
  #settle(output: BoardOutput, isLimp: boolean): void {
    for (const [index, live] of this.#joints.entries()) {
      if (live.output !== output) continue;
      this.#stay(index);
      this.#endPress(index);
      if (isLimp) release(live);
    }
  }

  /** Ends what plays. Its joints stay where they are, held, and nobody has them. */
  #halt(): void {
    for (const [index, live] of this.#joints.entries()) if (live.owner === owner.routine) this.#stay(index);
    this.#letGo();
  }

  /** What played is over: nobody has its joints now, and they finish the way to where it sent them. */
  #letGo(): void {
    this.#player.stop();
    this.#playing = null;
    for (const live of this.#joints) if (live.owner === owner.routine) live.owner = owner.nobody;
  }

  /** Goes on playing what plays, as the changed document has it; ends it when it is gone. */
  #replan(project: Project): void {
    if (!this.#playing || !this.#player.plan) return;
    const { kind, id } = this.#playing;
    const routine = kind === "routine" ? project.routines.find((candidate) => candidate.id === id) : undefined;
    if (routine) this.#player.replan(planRoutine(project, routine));
    else if (kind === "routine") this.#halt();
  }

  #followLeads(): void {
    for (let at = 0; at < this.#leads.length; at += 1) {
      const lead = this.#leads[at] as LiveLead;
      const live = this.#joints[lead.joint];
      if (this.#isTouched[lead.source] !== 1 || !isMovable(live)) continue;
      live.owner = owner.lead + at;
      live.isCalibrating = false;
      live.press = null;
      this.#wishes[lead.joint] = lead.shape(this.#sources[lead.source] as number);
    }
    this.#isTouched.fill(0);
  }
}

/** The target that a command of motion asks for, from the wish that stands now. */
function wishOf(command: MotionCommand, map: JointMap, wish: number): number {
  switch (command.kind) {
    case "home":
      return map.homeTarget;
    case "target":
      return command.target;
    case "setPoint":
      return map.toTarget(command.setPoint);
    case "jog": {
      const to = command.in === "target" ? wish + command.by : map.toTarget(map.toSetPoint(wish) + command.by);
      return Math.max(map.lowTarget, Math.min(map.highTarget, to));
    }
  }
}
