import { heldBack, passGate } from "@core/gate";
import { emptyProject, type Project, type TakeData } from "@core/project";
import { ok, problem, type Result } from "@core/result";
import type { Recorded } from "@core/take";
import { blended, handOver, isIdle, mayTake, soften } from "./arbitration";
import { wishOf } from "./asking";
import { BoardOutput } from "./boardOutput";
import type { Command } from "./commands";
import { type Followers, Inputs, type Wanting } from "./inputs";
import {
  beginPress,
  carryOver,
  enliven,
  isMovable,
  isSameWire,
  type LiveJoint,
  pressOn,
  release,
  standAt,
} from "./liveJoint";
import { Performing } from "./performing";
import { head, owner, pressing, setJoint, setLead, setSource } from "./snapshot";

/** What a lead's action leaves to the page. */
export type Asked = { readonly kind: "capture" } | { readonly kind: "tell"; readonly sentence: string };

/** However long the bench was held up, a tick moves things on by no more than this. */
const longestStepMs = 50;
const defaultTickMs = 20;
/** Over so long a joint goes on from where its board held it, to where what asks for it has got meanwhile. */
const softReturnMs = 400;

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
  #wishes = new Float64Array(0);
  readonly #inputs = new Inputs();
  /** What leads asked for that only the page can do. */
  #asked: Asked[] = [];
  readonly #valueOf = (sourceId: string) =>
    this.#inputs.valueOf(this.#project?.sources.findIndex((source) => source.id === sourceId) ?? -1);
  readonly #performing = new Performing({
    project: emptyProject("", ""),
    joints: this.#joints,
    wishes: this.#wishes,
    valueOf: this.#valueOf,
  });
  #lastMs = Number.NaN;
  #frames = 0;
  #revision = 0;
  readonly #followers: Followers = {
    onWish: (lead, joint, target, how) => this.#follow(lead, joint, target, how),
    onAction: (action) => this.#act(action),
  };

  /**
   * Takes the document, or a changed one. A held joint keeps its **set point**, not its angle: a new calibration, zero
   * or direction must never make a servo jump. A joint that moved to another board, channel or servo is released.
   */
  configure(project: Project, revision: number): void {
    const before = new Map(this.#joints.map((live, index) => [live.joint.id, { live, wish: this.#wishes[index] }]));
    const isSameRow = project.joints.map((joint) => joint.id).join() === [...before.keys()].join();
    this.outputs = project.boards.map((board) => {
      const output = new BoardOutput(board, project.joints);
      const old = this.outputs.find((candidate) => candidate.boardId === board.id);
      output.nextFrameMs = old?.nextFrameMs ?? Number.NaN;
      output.isSilent = old?.isSilent ?? false;
      output.isWaiting = old?.isWaiting ?? false;
      return output;
    });
    const leadsBefore = this.#inputs.leads.map(({ lead }) => lead.id);
    const wishes = isSameRow ? this.#wishes : new Float64Array(project.joints.length);
    this.#joints = project.joints.map((joint, index) => {
      const live = enliven(project, joint, this.outputs);
      const old = before.get(joint.id);
      wishes[index] = live.limits.map.homeTarget;
      live.passage.target = live.limits.map.homeTarget;
      if (old && isSameWire(old.live.joint, joint)) wishes[index] = carryOver(old.live, old.wish as number, live);
      return live;
    });
    this.#inputs.configure(project);
    for (const [index, live] of this.#joints.entries()) {
      if (live.owner < owner.lead) continue;
      // A lead is known by its name, not by its place: one that is gone leaves the joint where it stands.
      const now = this.#inputs.leads.findIndex(({ lead }) => lead.id === leadsBefore[live.owner - owner.lead]);
      const aimsAt = now >= 0 && this.#inputs.leads[now]?.aims.some((aim) => aim.joint === index);
      if (aimsAt) live.owner = owner.lead + now;
      else {
        live.owner = owner.nobody;
        live.handover = null;
        wishes[index] = live.passage.target;
      }
    }
    for (const output of this.outputs)
      output.staged = Array.from(output.channels, (channel) => {
        const live = this.#joints.find((one) => one.output === output && one.joint.channel === channel) as LiveJoint;
        return {
          channel,
          get limits() {
            return live.isCalibrating ? live.openLimits : live.limits;
          },
          get isHeld() {
            return live.isHeld;
          },
        };
      });
    this.#project = project;
    this.#revision = revision;
    this.#wishes = wishes;
    this.#performing.configure({ project, joints: this.#joints, wishes, valueOf: this.#valueOf }, isSameRow);
  }

  /** Takes the samples of a take; they never change once they are there. */
  giveTake(take: TakeData): void {
    this.#performing.giveTake(take);
  }

  /** What a board reads of a joint, by its place in the project; NaN for nothing. */
  hearReading(index: number, reading: number): void {
    const live = this.#joints[index];
    if (live) live.reading = reading;
  }

  /** Whether a routine plays, stands paused or is recorded over, or the bench goes to a pose. */
  get isPlaying(): boolean {
    return this.#performing.isPlaying;
  }

  /** What is recorded so far; null while nothing is. */
  get recordedSoFar(): Recorded | null {
    return this.#performing.recordedSoFar;
  }

  /** A take that is ready, once. */
  takeRecorded(): Recorded | null {
    return this.#performing.takeRecorded();
  }

  /** Takes one command. What cannot be done is answered with a sentence and changes nothing. */
  apply(command: Command): Result<null> {
    // Commands that name what they are for refuse in words of their own.
    const hasOwnWords = "jointId" in command || "sourceId" in command || "poseId" in command;
    const isOdd = Object.values(command).some((value) => typeof value === "number" && !Number.isFinite(value));
    if (isOdd && !hasOwnWords) return problem("What was asked is not a number; nothing was changed.");
    switch (command.kind) {
      case "releaseAll":
        this.#performing.halt();
        for (const live of this.#joints) release(live);
        return ok(null);
      case "holdAll":
        for (const index of this.#joints.keys()) this.#hold(index);
        return ok(null);
      case "stop":
        this.#performing.halt();
        // What a hand sent on its way stops there too; what is measured has its own ends.
        for (const [index, live] of this.#joints.entries())
          if (live.owner <= owner.hand && !live.isCalibrating) this.#stay(index);
        return ok(null);
      case "source":
        return this.#inputs.give(command.sourceId, command.value);
      case "lost":
        this.#inputs.lose(command.sourceId, command.isLost, this.#lastMs);
        return ok(null);
      case "world":
        this.#inputs.moveWorld(command.sourceId, command.value);
        return ok(null);
      case "solo":
        this.#inputs.solo(command.leadId, command.sourceId);
        return ok(null);
      case "testInputs":
        this.#inputs.isTesting = command.isOn;
        return ok(null);
      case "goToPose":
      case "play":
      case "pause":
      case "seek":
      case "skip":
      case "loop":
      case "playSpeed":
      case "record":
      case "endRecord":
        return this.#performing.perform(command, this.#lastMs);
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
    this.#inputs.step(nowMs, dtMs, this.#followers);
    this.#giveBackIdle(nowMs);
    for (const live of this.#performing.advance(dtMs, nowMs)) release(live);
    for (let index = 0; index < this.#joints.length; index += 1) {
      const live = this.#joints[index] as LiveJoint;
      if (live.press) this.#wishes[index] = pressOn(live.press, nowMs, this.#wishes[index] as number);
      if (live.isHeld && !live.output.isWaiting) {
        const wish = blended(live, this.#wishes[index] as number, nowMs);
        passGate(live.isCalibrating ? live.openLimits : live.limits, wish, dtMs, live.passage);
        if (live.isLimpAtRest && live.passage.target === 0 && !live.isCalibrating) {
          live.passage.register = Number.NaN;
          live.passage.setPoint = Number.NaN;
        }
      }
      live.output.registers[live.slot] = live.passage.register;
    }
    this.#performing.listen();
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
    this.#performing.halt();
    this.#settle(output, isLimp);
  }

  /**
   * A board answers again. When its servos are limp, nobody knows where they hang: its joints are released, and to hold
   * them again is for a person to say. Where the board has said which numbers it holds (by channel, NaN for none), its joints go on from there.
   */
  linkBack(boardId: string, isLimp: boolean, heard: ArrayLike<number> | null = null): void {
    const output = this.outputs.find((candidate) => candidate.boardId === boardId);
    if (!output?.isSilent) return;
    output.isSilent = false;
    output.isWaiting = false;
    for (const live of this.#joints) if (live.output === output) live.isCalibrating = false;
    if (heard && !isLimp) this.#standAsHeard(output, heard);
    this.#settle(output, isLimp);
  }

  /**
   * A board has not said for some frames that it took what was sent: what its joints are asked for waits with it. When it speaks again, they go on softly
   * from the numbers that it holds.
   */
  linkWaits(boardId: string, isWaiting: boolean, heard: ArrayLike<number>): void {
    const output = this.outputs.find((candidate) => candidate.boardId === boardId);
    if (!output || output.isWaiting === isWaiting) return;
    output.isWaiting = isWaiting;
    if (isWaiting) return;
    const owners = this.#joints.map((live) => live.owner);
    this.#standAsHeard(output, heard);
    for (const [index, live] of this.#joints.entries()) {
      if (live.output !== output || !live.isHeld) continue;
      live.owner = owners[index] as number;
      live.handover = {
        from: live.passage.target,
        sinceMs: this.#lastMs,
        ms: Math.max(live.joint.control.blendMs, softReturnMs),
      };
    }
  }

  #standAsHeard(output: BoardOutput, heard: ArrayLike<number>): void {
    for (const live of this.#joints) {
      if (live.output !== output || !live.isHeld) continue;
      const register = heard[live.joint.channel] as number;
      // A continuous servo at rest has no signal though it is held.
      if (!Number.isNaN(register)) standAt(live, register);
      else if (!live.isLimpAtRest) release(live);
    }
  }

  /** Writes the live state into a snapshot (see `snapshot.ts`); what only a board can tell is left as it is. */
  write(snapshot: Float64Array): void {
    snapshot[head.revision] = this.#revision;
    snapshot[head.frames] = this.#frames;
    snapshot[head.missedFrames] = this.missedFrames;
    this.#performing.write(snapshot);
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
    const joints = this.#joints.length;
    const sources = this.#project?.sources.length ?? 0;
    const { leads } = this.#inputs;
    for (let at = 0; at < sources; at += 1)
      setSource(snapshot, joints, at, this.#inputs.valueOf(at), this.#inputs.isLost(at) ? 1 : 0);
    const shape = { joints, sources, leads: leads.length };
    for (let at = 0; at < leads.length; at += 1) setLead(snapshot, shape, at, leads[at]?.chain.value ?? Number.NaN);
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
    if (command.kind === "giveBack") {
      this.#endCalibrating(index);
      if (!this.#giveBack(index, this.#lastMs)) live.owner = owner.nobody;
      return ok(null);
    }
    if (live.output.isSilent) return problem(`${live.output.label} does not answer. See to its link first.`);
    if (command.kind === "hold") {
      this.#hold(index);
      return ok(null);
    }
    if (!live.isHeld) return problem(`${live.joint.label} is released and stays limp. Hold it first (H).`);
    if (command.kind === "calibrate") {
      handOver(live, owner.hand, this.#lastMs);
      live.isCalibrating = true;
      return ok(null);
    }
    if (command.kind === "press") return this.#press(index, command);
    const isBySetPoint = command.kind === "setPoint" || (command.kind === "jog" && command.in === "setPoint");
    live.isCalibrating &&= isBySetPoint;
    const { map } = live.isCalibrating ? live.openLimits : live.limits;
    const wish = wishOf(command, map, this.#wishes[index] as number);
    if (!Number.isFinite(wish)) return problem(`What was asked of ${live.joint.label} is not a number.`);
    handOver(live, owner.hand, this.#lastMs);
    live.touchedMs = this.#lastMs;
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
    live.handover = null;
    this.#wishes[index] = live.passage.target;
  }

  /** Leaves a silent or returning board's joints where they are, limp or not. */
  #settle(output: BoardOutput, isLimp: boolean): void {
    for (const [index, live] of this.#joints.entries()) {
      if (live.output !== output) continue;
      this.#stay(index);
      this.#endPress(index);
      // Who had it must take it anew: what was moved meanwhile was not for it.
      if (live.isHeld) live.owner = owner.nobody;
      if (isLimp) release(live);
    }
  }

  /** A line `name=value` has arrived on a link. */
  hear(name: string, value: number): void {
    this.#inputs.hear(name, value, this.#lastMs);
  }

  /** What a lead asked for that only the page can do, once. */
  takeAsked(): readonly Asked[] {
    const asked = this.#asked;
    if (asked.length > 0) this.#asked = [];
    return asked;
  }

  /** A lead's wish, where it has the joint or may take it. */
  #follow(lead: number, joint: number, target: number, { isTouched, isSteady, isBack }: Wanting): void {
    const live = this.#joints[joint];
    if (!isMovable(live)) return;
    const code = owner.lead + lead;
    if (live.owner !== code) {
      // While a servo is measured nothing that goes on by itself may take it.
      if ((live.isCalibrating && !isTouched) || !mayTake(live, code, isTouched, isSteady)) return;
      handOver(live, code, this.#lastMs);
    } else if (isBack) soften(live, this.#lastMs);
    if (isTouched) live.touchedMs = this.#lastMs;
    live.isCalibrating = false;
    live.press = null;
    this.#wishes[joint] = target;
  }

  #act(action: Action): void {
    if (action.kind === "capture") {
      this.#asked.push({ kind: "capture" });
      return;
    }
    const done = this.apply(commandOf(action));
    if (!done.ok) this.#asked.push({ kind: "tell", sentence: done.problem });
  }

  #giveBackIdle(nowMs: number): void {
    for (let index = 0; index < this.#joints.length; index += 1)
      if (isIdle(this.#joints[index] as LiveJoint, nowMs)) this.#giveBack(index, nowMs);
  }

  /** Gives a joint to who else wants it: what plays, else a lead that goes on by itself. Says whether there was anybody. */
  #giveBack(index: number, nowMs: number): boolean {
    const live = this.#joints[index] as LiveJoint;
    if (this.#performing.wants(index)) {
      handOver(live, owner.routine, nowMs);
      return true;
    }
    const lead = this.#inputs.leads.findIndex(
      (one) => one.isSteady && !one.lead.isMuted && one.aims.some((aim) => aim.joint === index),
    );
    if (lead < 0 || live.owner === owner.lead + lead) return false;
    handOver(live, owner.lead + lead, nowMs);
    return true;
  }
}

type Action = Parameters<Followers["onAction"]>[0];

/** What a lead's action asks of the engine. */
function commandOf(action: Exclude<Action, { kind: "capture" }>): Command {
  if (action.kind === "release") return { kind: "releaseAll" };
  if (action.kind === "next") return { kind: "skip", by: 1 };
  return action.kind === "previous" ? { kind: "skip", by: -1 } : action;
}
