import { heldBack, passGate } from "@core/gate";
import { emptyProject, type Project, type TakeData } from "@core/project";
import { ok, problem, type Result } from "@core/result";
import type { Recorded } from "@core/take";
import { wishOf } from "./asking";
import { BoardOutput } from "./boardOutput";
import type { Command } from "./commands";
import { type Happening, mayTake } from "./hands";
import { type Followers, Inputs, type Wanting } from "./inputs";
import { carryOver, enliven, goLimp, isMovable, isSameWire, type LiveJoint, standAt, standsAt } from "./liveJoint";
import { Performing } from "./performing";
import { beginPress, type Press, pressOn } from "./press";
import { head, owner, pressing, setJoint, setLead, setSource } from "./snapshot";

/** What a lead's action leaves to the page. */
export type Asked =
  | { readonly kind: "capture" }
  /** A cue for other benches. */
  | { readonly kind: "cue"; readonly name: string }
  | { readonly kind: "tell"; readonly sentence: string };

/** However long the bench was held up, a tick moves things on by no more than this. */
const longestStepMs = 50;
const defaultTickMs = 20;

/**
 * The heart of the bench: commands in, frames out, one step at a time.
 * It owns no clock, no link and no storage; `tick(nowMs)` is handed the time, so the same commands at the same times
 * give the same bytes. Sources → leads → who has the joint → wishes → gate → counts.
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
  readonly #sayCue = (name: string) => void this.#asked.push({ kind: "cue", name });
  readonly #happenTo = (joint: number, what: Happening) => this.#happen(joint, what);
  readonly #performing = new Performing({
    project: emptyProject("", ""),
    joints: this.#joints,
    wishes: this.#wishes,
    valueOf: this.#valueOf,
    happen: this.#happenTo,
    sayCue: this.#sayCue,
  });
  /** Counts whatever was asked, and every change of what goes to a board: while it stays the same, the bench rests. */
  movements = 0;
  #lastMs = Number.NaN;
  #frames = 0;
  #revision = 0;
  readonly #followers: Followers = {
    onWish: (leadId, joint, target, how) => this.#follow(leadId, joint, target, how),
    onAction: (action) => this.#act(action),
    onRelease: (leadId, joint) => this.#leave(joint, leadId, "release"),
    ground: {
      mayMove: (leadId, joint, isTouched, isSteady) => {
        const live = this.#joints[joint];
        if (!isMovable(live)) return false;
        const { hands } = live;
        return hands.leadId === leadId || mayTake(hands.kind, "lead", live.joint.control, { isTouched, isSteady });
      },
      leadOf: (joint) => this.#joints[joint]?.hands.leadId ?? null,
      standsAt: (joint) => {
        const stands = this.#joints[joint]?.passage.target ?? 0;
        return isMovable(this.#joints[joint]) ? (this.#wishes[joint] ?? stands) : stands;
      },
    },
  };

  /**
   * Takes the document, or a changed one. A held joint keeps its **set point**, not its angle: a new calibration, zero
   * or direction must never make a servo jump. A joint that moved to another board, channel or servo is released.
   */
  configure(project: Project, revision: number): void {
    this.movements += 1;
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
    const wishes = isSameRow ? this.#wishes : new Float64Array(project.joints.length);
    const remeasured: number[] = [];
    this.#joints = project.joints.map((joint, index) => {
      const live = enliven(project, joint, this.outputs);
      const old = before.get(joint.id);
      wishes[index] = live.limits.map.homeTarget;
      live.passage.target = live.limits.map.homeTarget;
      if (!old || !isSameWire(old.live.joint, joint)) return live;
      const carried = carryOver(old.live, old.wish as number, live);
      wishes[index] = carried.wish;
      if (!carried.isSameMeasure) remeasured.push(index);
      return live;
    });
    this.#wishes = wishes;
    for (const index of remeasured) this.#happen(index, "remeasured");
    this.#inputs.configure(project);
    for (const [index, { hands }] of this.#joints.entries()) {
      if (hands.leadId === null) continue;
      const lead = this.#inputs.leads[this.#inputs.placeOfLead(hands.leadId)];
      // The others of a tip go on by another name; what they had waits until one of them is moved.
      if (lead?.ownerId !== hands.leadId || !lead.aims.some((aim) => aim.joint === index))
        this.#happen(index, "leadGone");
    }
    for (const output of this.outputs)
      output.staged = Array.from(output.channels, (channel) => {
        const live = this.#joints.find((one) => one.output === output && one.joint.channel === channel) as LiveJoint;
        return {
          channel,
          get limits() {
            return live.hands.isMeasured ? live.openLimits : live.limits;
          },
          get isHeld() {
            return live.hands.isHeld;
          },
        };
      });
    this.#project = project;
    this.#revision = revision;
    const stage = {
      project,
      joints: this.#joints,
      wishes,
      valueOf: this.#valueOf,
      happen: this.#happenTo,
      sayCue: this.#sayCue,
    };
    this.#performing.configure(stage, isSameRow);
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

  /** Where a joint stands by what its board reads of its servo; NaN for one that cannot be read. */
  seenAt(index: number): number {
    const live = this.#joints[index];
    return live?.toSeen?.(live.reading) ?? Number.NaN;
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
    this.movements += 1;
    // Commands that name what they are for refuse in words of their own.
    const hasOwnWords = "jointId" in command || "sourceId" in command || "poseId" in command;
    const isOdd = Object.values(command).some((value) => typeof value === "number" && !Number.isFinite(value));
    if (isOdd && !hasOwnWords) return problem("What was asked is not a number; nothing was changed.");
    switch (command.kind) {
      case "releaseAll":
        this.#performing.halt();
        for (const index of this.#joints.keys()) this.#happen(index, "release");
        return ok(null);
      case "holdAll":
        for (const index of this.#joints.keys()) this.#hold(index);
        return ok(null);
      case "stop":
        this.#performing.halt();
        // What a hand sent on its way stops there too; what is measured has its own ends.
        for (const index of this.#joints.keys()) this.#happen(index, "stop");
        return ok(null);
      case "source":
        return this.#inputs.give(command.sourceId, command.value);
      case "lost":
        this.#inputs.lose(command.sourceId, command.isLost, this.#lastMs);
        return ok(null);
      case "letGo":
        this.#letGo(command.sourceId);
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
      case "goTo":
      case "play":
      case "pause":
      case "seek":
      case "skip":
      case "loop":
      case "playSpeed":
      case "record":
      case "endRecord":
        return this.#performing.perform(command);
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
    for (const index of this.#performing.advance(dtMs)) this.#happen(index, "release");
    for (let index = 0; index < this.#joints.length; index += 1) {
      const live = this.#joints[index] as LiveJoint;
      const { hands } = live;
      if (hands.press) {
        const wish = this.#wishes[index] as number;
        this.#wishes[index] = pressOn(hands.press, nowMs, wish, standsAt(live, wish));
      }
      if (hands.isHeld && !live.output.isWaiting) {
        const wish = hands.blended(this.#wishes[index] as number, nowMs);
        passGate(hands.isMeasured ? live.openLimits : live.limits, wish, dtMs, live.passage);
        if (live.isLimpAtRest && live.passage.target === 0 && !hands.isMeasured) goLimp(live);
      }
      // Not “is not the same”: no signal is not equal to itself.
      if (!Object.is(live.output.counts[live.slot], live.passage.count)) this.movements += 1;
      live.output.counts[live.slot] = live.passage.count;
    }
    this.#performing.listen();
    for (const output of this.outputs) {
      this.missedFrames += output.schedule(nowMs);
      if (output.isDue) this.#frames += 1;
    }
  }

  /** Whether a joint is held and being calibrated: nothing else has been asked of it, and nobody has released it. */
  isCalibrating(jointId: string): boolean {
    return this.#joints.find((live) => live.joint.id === jointId)?.hands.isMeasured ?? false;
  }

  /** What the gate has let through for a joint, in set points: how far, and what its board makes of that. NaN for a joint that is not there. */
  passedOf(jointId: string): { readonly setPoint: number; readonly sent: number } {
    const live = this.#joints.find((one) => one.joint.id === jointId);
    if (!live) return { setPoint: Number.NaN, sent: Number.NaN };
    return { setPoint: live.limits.map.toSetPoint(live.passage.target), sent: live.passage.setPoint };
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
    this.#happenOn(output, isLimp ? "release" : "lost");
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
    if (heard && !isLimp) this.#standAsHeard(output, heard);
    this.#happenOn(output, isLimp ? "release" : "back");
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
    this.#standAsHeard(output, heard);
    this.#happenOn(output, "heard");
  }

  #standAsHeard(output: BoardOutput, heard: ArrayLike<number>): void {
    for (const [index, live] of this.#joints.entries()) {
      if (live.output !== output || !live.hands.isHeld) continue;
      const count = heard[live.joint.channel] as number;
      // A continuous servo at rest has no signal though it is held.
      if (!Number.isNaN(count)) standAt(live, count);
      else if (!live.isLimpAtRest) this.#happen(index, "release");
    }
  }

  #happenOn(output: BoardOutput, what: Happening): void {
    for (const [index, live] of this.#joints.entries()) if (live.output === output) this.#happen(index, what);
  }

  /**
   * The one way in which a joint changes hands (see `hands.ts`), with what becomes of its wish. `asked` is what the new one asks for, `by` the lead or
   * the press that takes it. Says whether it may be.
   */
  #happen(index: number, what: Happening, asked = Number.NaN, by: string | Press | null = null): boolean {
    const live = this.#joints[index] as LiveJoint;
    const { hands, passage } = live;
    const { press } = hands;
    const { blendMs } = live.joint.control;
    this.movements += 1;
    const wish = hands.happen(what, { nowMs: this.#lastMs, standsAt: passage.target, blendMs }, by);
    if (wish === null) return false;
    if (wish === "stay") this.#wishes[index] = passage.target;
    else if (wish === "asked") this.#wishes[index] = asked;
    else if (wish === "rest") {
      if (press) this.#wishes[index] = press.backTo;
      // What turned to be measured does not go on turning.
      if (live.joint.axis.kind === "spin") this.#wishes[index] = live.limits.map.homeTarget;
    }
    if (!hands.isHeld) goLimp(live);
    return true;
  }

  /** Writes the live state into a snapshot (see `snapshot.ts`); what only a board can tell is left as it is. */
  write(snapshot: Float64Array): void {
    snapshot[head.revision] = this.#revision;
    snapshot[head.frames] = this.#frames;
    snapshot[head.missedFrames] = this.missedFrames;
    this.#performing.write(snapshot);
    for (let index = 0; index < this.#joints.length; index += 1) {
      const live = this.#joints[index] as LiveJoint;
      const { hands } = live;
      setJoint(snapshot, index, "isHeld", hands.isHeld ? 1 : 0);
      setJoint(snapshot, index, "owner", this.#ownerOf(live));
      setJoint(snapshot, index, "wish", this.#wishes[index] as number);
      setJoint(snapshot, index, "target", live.passage.target);
      setJoint(snapshot, index, "count", live.passage.count);
      setJoint(snapshot, index, "setPoint", live.passage.setPoint);
      setJoint(snapshot, index, "pressing", hands.press?.phase ?? pressing.none);
      setJoint(snapshot, index, "heldBack", hands.isHeld ? live.passage.heldBack : heldBack.nothing);
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
    if (command.kind === "release" || (command.kind === "calibrate" && !command.isOn)) {
      this.#happen(index, command.kind === "release" ? "release" : "endMeasure");
      return ok(null);
    }
    if (command.kind === "giveBack") {
      this.#happen(index, "endMeasure");
      if (!this.#giveBack(index)) this.#happen(index, "giveBack");
      return ok(null);
    }
    if (live.output.isSilent) return problem(`${live.output.label} does not answer. See to its link first.`);
    if (command.kind === "hold") {
      this.#hold(index);
      return ok(null);
    }
    const { hands } = live;
    if (!hands.isHeld) return problem(`${live.joint.label} is released and stays limp. Hold it first (H).`);
    if (command.kind === "calibrate") {
      this.#happen(index, "measure");
      return ok(null);
    }
    const notANumber = problem(`What was asked of ${live.joint.label} is not a number.`);
    if (command.kind === "press") {
      const begun = beginPress(command, live.openLimits.map.toTarget, this.#lastMs);
      if (!begun) return notANumber;
      if (this.#happen(index, "press", begun.from, begun.press)) return ok(null);
      return problem(`${live.joint.label} is moved by a ${hands.kind}. Take it by hand first.`);
    }
    const isBySetPoint = command.kind === "setPoint" || (command.kind === "jog" && command.in === "setPoint");
    const { map } = hands.isMeasured && isBySetPoint ? live.openLimits : live.limits;
    const wish = wishOf(command, map, this.#wishes[index] as number);
    if (!Number.isFinite(wish)) return notANumber;
    this.#happen(index, isBySetPoint ? "setPoint" : "move", wish);
    return ok(null);
  }

  #hold(index: number): void {
    if (!this.#joints[index]?.output.isSilent) this.#happen(index, "hold");
  }

  #letGo(sourceId: string): void {
    this.#inputs.letGo(sourceId);
    for (const live of this.#inputs.leads) {
      if (live.lead.sourceId !== sourceId) continue;
      // What was on its way through the chain moves nothing behind the thumb.
      live.wasQuiet = true;
      for (const { joint } of live.aims) this.#leave(joint, live.ownerId, "leadGone");
    }
  }

  /** What happens to a joint where this lead has it. */
  #leave(joint: number, leadId: string, what: "leadGone" | "release"): void {
    if (this.#joints[joint]?.hands.leadId === leadId) this.#happen(joint, what);
  }

  /** Who has a joint, as the snapshot says it. */
  #ownerOf({ hands }: LiveJoint): number {
    if (hands.leadId !== null) return owner.lead + this.#inputs.placeOfLead(hands.leadId);
    if (hands.kind === "routine") return owner.routine;
    return hands.kind === "released" || hands.kind === "free" ? owner.nobody : owner.hand;
  }

  /** A line `name=value` has arrived on the link of a board. */
  hear(boardId: string, name: string, value: number): void {
    this.#inputs.hear(boardId, name, value, this.#lastMs);
  }

  /** Another machine said a number, under a key of `afarKeys`. Says whether a source waits for it. */
  hearFrom(key: string, value: number): boolean {
    this.movements += 1;
    return this.#inputs.hearFrom(key, value, this.#lastMs);
  }

  /** What a lead asked for that only the page can do, once. */
  takeAsked(): readonly Asked[] {
    const asked = this.#asked;
    if (asked.length > 0) this.#asked = [];
    return asked;
  }

  /** A lead's wish, where it has the joint or may take it. */
  #follow(leadId: string, joint: number, target: number, how: Wanting): void {
    const live = this.#joints[joint];
    if (!isMovable(live)) return;
    const { hands } = live;
    if (hands.leadId === leadId) {
      if (how.isBack) this.#happen(joint, "leadIsBack", target);
      if (how.isTouched) hands.touch(this.#lastMs);
      this.#wishes[joint] = target;
      return;
    }
    if (!mayTake(hands.kind, "lead", live.joint.control, how)) return;
    this.#happen(joint, how.isTouched ? "leadTakes" : "leadGoesOn", target, leadId);
  }

  #act(action: Action): void {
    if (action.kind === "capture" || action.kind === "cue") {
      this.#asked.push(action);
      return;
    }
    const done = this.apply(commandOf(action));
    if (!done.ok) this.#asked.push({ kind: "tell", sentence: done.problem });
  }

  #giveBackIdle(nowMs: number): void {
    for (let index = 0; index < this.#joints.length; index += 1) {
      const { hands, joint } = this.#joints[index] as LiveJoint;
      if (hands.isIdle(joint.control.giveBackMs, nowMs)) this.#giveBack(index);
    }
  }

  /** Gives a joint to who else wants it: what plays, else a lead that goes on by itself. Says whether there was anybody. */
  #giveBack(index: number): boolean {
    const { hands } = this.#joints[index] as LiveJoint;
    if (this.#performing.wants(index)) return this.#happen(index, "routineTakesBack");
    const lead = this.#inputs.leads.find(
      (one) => one.isSteady && this.#inputs.isFollowed(one) && one.aims.some((aim) => aim.joint === index),
    );
    if (!lead || hands.leadId === lead.ownerId) return false;
    return this.#happen(index, "leadGoesOn", this.#wishes[index], lead.ownerId);
  }
}

type Action = Parameters<Followers["onAction"]>[0];

/** What a lead's action asks of the engine. */
function commandOf(action: Exclude<Action, { kind: "capture" | "cue" }>): Command {
  if (action.kind === "release") return { kind: "releaseAll" };
  if (action.kind === "next") return { kind: "skip", by: 1 };
  return action.kind === "previous" ? { kind: "skip", by: -1 } : action;
}
