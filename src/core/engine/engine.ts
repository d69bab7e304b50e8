import { emptyProject, type Project, type TakeData } from "@core/project";
import { ok, problem, type Result } from "@core/result";
import type { Recorded } from "@core/take";
import { wishOf } from "./asking";
import type { BoardOutput } from "./boardOutput";
import { type Asked, type Command, commandOf, type LeadAction } from "./commands";
import { type Happening, mayTake } from "./hands";
import { type Followers, Inputs, type Wanting } from "./inputs";
import { isMovable, type LiveJoint } from "./liveJoint";
import { Performing } from "./performing";
import { beginPress } from "./press";
import { Row } from "./row";
import { head, owner, setJoint, setLead, setSource } from "./snapshot";

/** However long the bench was held up, a tick moves things on by no more than this. */
const longestStepMs = 50;
const defaultTickMs = 20;

const never = () => false;

/**
 * The heart of the bench: commands in, frames out, one step at a time.
 * It owns no clock, no link and no storage; `tick(nowMs)` is handed the time, so the same commands at the same times
 * give the same bytes. Sources → leads → who has the joint → wishes → gate → counts.
 */
export class Engine {
  missedFrames = 0;
  #project: Project | null = null;
  readonly #row = new Row();
  readonly #inputs = new Inputs();
  /** What leads asked for that only the page can do. */
  #asked: Asked[] = [];
  readonly #valueOf = (sourceId: string) =>
    this.#inputs.valueOf(this.#project?.sources.findIndex((source) => source.id === sourceId) ?? -1);
  readonly #sayCue = (name: string) => void this.#asked.push({ kind: "cue", name });
  readonly #happenTo = (joint: number, what: Happening) => this.#row.happen(joint, what);
  readonly #performing = new Performing({
    project: emptyProject("", ""),
    joints: this.#row.joints,
    wishes: this.#row.wishes,
    valueOf: this.#valueOf,
    happen: this.#happenTo,
    sayCue: this.#sayCue,
  });
  #asks = 0;
  #lastMs = Number.NaN;
  #frames = 0;
  #revision = 0;
  readonly #followers: Followers = {
    onWish: (leadId, joint, target, how) => this.#follow(leadId, joint, target, how),
    onAction: (action) => this.#act(action),
    onRelease: (leadId, joint) => this.#leave(joint, leadId, "release"),
    ground: {
      mayMove: (leadId, joint, isTouched, isSteady) => {
        const live = this.#row.joints[joint];
        if (!isMovable(live)) return false;
        const { hands } = live;
        return hands.leadId === leadId || mayTake(hands.kind, "lead", live.joint.control, { isTouched, isSteady });
      },
      leadOf: (joint) => this.#row.joints[joint]?.hands.leadId ?? null,
      standsAt: (joint) => {
        const stands = this.#row.joints[joint]?.passage.target ?? 0;
        return isMovable(this.#row.joints[joint]) ? (this.#row.wishes[joint] ?? stands) : stands;
      },
    },
  };

  /** What goes out, board by board. */
  get outputs(): readonly BoardOutput[] {
    return this.#row.outputs;
  }

  /** Counts whatever was asked, and every change of what goes to a board: while it stays the same, the bench rests. */
  get movements(): number {
    return this.#asks + this.#row.movements;
  }

  /** Takes the document, or a changed one: see `Row.configure` for what becomes of joints that are held. */
  configure(project: Project, revision: number): void {
    this.#asks += 1;
    const isSameRow = this.#row.configure(project);
    this.#inputs.configure(project);
    for (const [index, { hands }] of this.#row.joints.entries()) {
      if (hands.leadId === null) continue;
      const lead = this.#inputs.leads[this.#inputs.placeOfLead(hands.leadId)];
      // The others of a tip go on by another name; what they had waits until one of them is moved.
      if (lead?.ownerId !== hands.leadId || !lead.aims.some((aim) => aim.joint === index))
        this.#row.happen(index, "leadGone");
    }
    this.#project = project;
    this.#revision = revision;
    const stage = {
      project,
      joints: this.#row.joints,
      wishes: this.#row.wishes,
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
    const live = this.#row.joints[index];
    if (live) live.reading = reading;
  }

  /** Where a joint stands by what its board reads of its servo; NaN for one that cannot be read. */
  seenAt(index: number): number {
    const live = this.#row.joints[index];
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
    this.#asks += 1;
    // Commands that name what they are for refuse in words of their own.
    const hasOwnWords = "jointId" in command || "sourceId" in command || "poseId" in command;
    const isOdd = Object.values(command).some((value) => typeof value === "number" && !Number.isFinite(value));
    if (isOdd && !hasOwnWords) return problem("What was asked is not a number; nothing was changed.");
    switch (command.kind) {
      case "releaseAll":
        this.#performing.halt();
        this.#row.happenToAll("release");
        return ok(null);
      case "holdAll":
        for (const index of this.#row.joints.keys()) this.#row.hold(index);
        return ok(null);
      case "stop":
        this.#performing.halt();
        // What a hand sent on its way stops there too; what is measured has its own ends.
        this.#row.happenToAll("stop");
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
      case "playOrPause":
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
    this.#row.nowMs = nowMs;
    this.#inputs.step(nowMs, dtMs, this.#followers);
    this.#giveBackIdle(nowMs);
    for (const index of this.#performing.advance(dtMs)) this.#row.happen(index, "release");
    this.#row.advance(nowMs, dtMs);
    this.#performing.listen();
    for (const output of this.outputs) {
      this.missedFrames += output.schedule(nowMs);
      if (output.isDue) this.#frames += 1;
    }
  }

  /** Whether a joint is held and being calibrated: nothing else has been asked of it, and nobody has released it. */
  isCalibrating(jointId: string): boolean {
    return this.#row.byId(jointId)?.hands.isMeasured ?? false;
  }

  /** What the gate has let through for a joint, in set points: how far, and what its board makes of that. NaN for a joint that is not there. */
  passedOf(jointId: string): { readonly setPoint: number; readonly sent: number } {
    const live = this.#row.byId(jointId);
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
    const output = this.#row.outputOf(boardId);
    if (!output) return;
    output.isSilent = true;
    this.#performing.halt();
    this.#row.happenOn(output, isLimp ? "release" : "lost");
  }

  /**
   * A board answers again. When its servos are limp, nobody knows where they hang: its joints are released, and to hold
   * them again is for a person to say. Where the board has said which numbers it holds (by channel, NaN for none), its joints go on from there.
   */
  linkBack(boardId: string, isLimp: boolean, heard: ArrayLike<number> | null = null): void {
    const output = this.#row.outputOf(boardId);
    if (!output?.isSilent) return;
    output.isSilent = false;
    output.isWaiting = false;
    if (heard && !isLimp) this.#row.standAsHeard(output, heard, never);
    this.#row.happenOn(output, isLimp ? "release" : "back");
  }

  /**
   * A board has not said for some frames that it took what was sent: what its joints are asked for waits with it. When it speaks again, they go on softly
   * from the numbers that it holds. Of a channel whose number is on its way (`isOnItsWay`) it cannot have said so yet.
   */
  linkWaits(
    boardId: string,
    isWaiting: boolean,
    heard: ArrayLike<number>,
    isOnItsWay: (channel: number) => boolean = never,
  ): void {
    const output = this.#row.outputOf(boardId);
    if (!output || output.isWaiting === isWaiting) return;
    output.isWaiting = isWaiting;
    if (isWaiting) return;
    this.#row.standAsHeard(output, heard, isOnItsWay);
    this.#row.happenOn(output, "heard");
  }

  /** Writes the live state into a snapshot (see `snapshot.ts`); what only a board can tell is left as it is. */
  write(snapshot: Float64Array): void {
    snapshot[head.revision] = this.#revision;
    snapshot[head.frames] = this.#frames;
    snapshot[head.missedFrames] = this.missedFrames;
    this.#performing.write(snapshot);
    this.#row.write(snapshot);
    for (let index = 0; index < this.#row.joints.length; index += 1)
      setJoint(snapshot, index, "owner", this.#ownerOf(this.#row.joints[index] as LiveJoint));
    const joints = this.#row.joints.length;
    const sources = this.#project?.sources.length ?? 0;
    const { leads } = this.#inputs;
    for (let at = 0; at < sources; at += 1)
      setSource(snapshot, joints, at, this.#inputs.valueOf(at), this.#inputs.isLost(at) ? 1 : 0);
    const shape = { joints, sources, leads: leads.length };
    for (let at = 0; at < leads.length; at += 1) setLead(snapshot, shape, at, leads[at]?.chain.value ?? Number.NaN);
  }

  #command(command: Extract<Command, { jointId: string }>): Result<null> {
    const index = this.#row.joints.findIndex((live) => live.joint.id === command.jointId);
    const live = this.#row.joints[index];
    if (!live) return problem("That joint is no longer on the bench.");
    if (command.kind === "holdOrRelease")
      return this.#command({ kind: live.hands.isHeld ? "release" : "hold", jointId: command.jointId });
    if (command.kind === "release" || (command.kind === "calibrate" && !command.isOn)) {
      this.#row.happen(index, command.kind === "release" ? "release" : "endMeasure");
      return ok(null);
    }
    if (command.kind === "giveBack") {
      this.#row.happen(index, "endMeasure");
      if (!this.#giveBack(index)) this.#row.happen(index, "giveBack");
      return ok(null);
    }
    if (live.output.isSilent) return problem(`${live.output.label} does not answer. See to its link first.`);
    if (command.kind === "hold") {
      this.#row.hold(index);
      return ok(null);
    }
    const { hands } = live;
    if (!hands.isHeld) return problem(`${live.joint.label} is released and stays limp. Hold it first (H).`);
    if (command.kind === "calibrate") {
      this.#row.happen(index, "measure");
      return ok(null);
    }
    const notANumber = problem(`What was asked of ${live.joint.label} is not a number.`);
    if (command.kind === "press") {
      const begun = beginPress(command, live.openLimits.map.toTarget, this.#lastMs);
      if (!begun) return notANumber;
      if (this.#row.happen(index, "press", begun.from, begun.press)) return ok(null);
      return problem(`${live.joint.label} is moved by a ${hands.kind}. Take it by hand first.`);
    }
    const isBySetPoint = command.kind === "setPoint" || (command.kind === "jog" && command.in === "setPoint");
    const { map } = hands.isMeasured && isBySetPoint ? live.openLimits : live.limits;
    const wish = wishOf(command, map, this.#row.wishes[index] as number);
    if (!Number.isFinite(wish)) return notANumber;
    this.#row.happen(index, isBySetPoint ? "setPoint" : "move", wish);
    return ok(null);
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
    if (this.#row.joints[joint]?.hands.leadId === leadId) this.#row.happen(joint, what);
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
    this.#asks += 1;
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
    const live = this.#row.joints[joint];
    if (!isMovable(live)) return;
    const { hands } = live;
    if (hands.leadId === leadId) {
      if (how.isBack) this.#row.happen(joint, "leadIsBack", target);
      if (how.isTouched) hands.touch(this.#lastMs);
      this.#row.wishes[joint] = target;
      return;
    }
    if (!mayTake(hands.kind, "lead", live.joint.control, how)) return;
    this.#row.happen(joint, how.isTouched ? "leadTakes" : "leadGoesOn", target, leadId);
  }

  #act(action: LeadAction): void {
    if (action.kind === "capture" || action.kind === "cue") {
      this.#asked.push(action);
      return;
    }
    const done = this.apply(commandOf(action));
    if (!done.ok) this.#asked.push({ kind: "tell", sentence: done.problem });
  }

  #giveBackIdle(nowMs: number): void {
    for (let index = 0; index < this.#row.joints.length; index += 1) {
      const { hands, joint } = this.#row.joints[index] as LiveJoint;
      if (hands.isIdle(joint.control.giveBackMs, nowMs)) this.#giveBack(index);
    }
  }

  /** Gives a joint to who else wants it: what plays, else a lead that goes on by itself. Says whether there was anybody. */
  #giveBack(index: number): boolean {
    const { hands } = this.#row.joints[index] as LiveJoint;
    if (this.#performing.wants(index)) return this.#row.happen(index, "routineTakesBack");
    const lead = this.#inputs.leads.find(
      (one) => one.isSteady && this.#inputs.isFollowed(one) && one.aims.some((aim) => aim.joint === index),
    );
    if (!lead || hands.leadId === lead.ownerId) return false;
    return this.#row.happen(index, "leadGoesOn", this.#row.wishes[index], lead.ownerId);
  }
}
