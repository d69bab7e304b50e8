import { heldBack, passGate } from "@core/gate";
import type { Project } from "@core/project";
import { BoardOutput } from "./boardOutput";
import type { Happening } from "./hands";
import { carryOver, enliven, goLimp, isSameWire, type LiveJoint, standAt, standsAt } from "./liveJoint";
import { type Press, pressOn } from "./press";
import { pressing, setJoint } from "./snapshot";

/**
 * The joints of the bench, in the order of the project: what is wished of each, who has it, and its way through the gate to the frame of its board. It knows
 * nothing of who wishes: leads, routines and commands all come to it by `happen`.
 */
export class Row {
  joints: readonly LiveJoint[] = [];
  wishes = new Float64Array(0);
  outputs: readonly BoardOutput[] = [];
  /** Counts every change of hands, and every change of what goes to a board. */
  movements = 0;
  #nowMs = Number.NaN;

  /**
   * Takes the document, or a changed one. A held joint keeps its **set point**, not its angle: a new calibration, zero
   * or direction must never make a servo jump. A joint that moved to another board, channel or servo is released.
   * Says whether the joints are the same ones in the same order.
   */
  configure(project: Project): boolean {
    const before = new Map(this.joints.map((live, index) => [live.joint.id, { live, wish: this.wishes[index] }]));
    const isSameRow = project.joints.map((joint) => joint.id).join() === [...before.keys()].join();
    this.outputs = project.boards.map((board) => {
      const output = new BoardOutput(board, project.joints);
      const old = this.outputs.find((candidate) => candidate.boardId === board.id);
      output.nextFrameMs = old?.nextFrameMs ?? Number.NaN;
      output.isSilent = old?.isSilent ?? false;
      output.isWaiting = old?.isWaiting ?? false;
      return output;
    });
    const wishes = isSameRow ? this.wishes : new Float64Array(project.joints.length);
    const remeasured: number[] = [];
    this.joints = project.joints.map((joint, index) => {
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
    this.wishes = wishes;
    for (const index of remeasured) this.happen(index, "remeasured");
    for (const output of this.outputs) output.staged = this.#stagedOf(output);
    return isSameRow;
  }

  #stagedOf(output: BoardOutput): BoardOutput["staged"] {
    return Array.from(output.channels, (channel) => {
      const live = this.joints.find((one) => one.output === output && one.joint.channel === channel) as LiveJoint;
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
  }

  byId(jointId: string): LiveJoint | undefined {
    return this.joints.find((live) => live.joint.id === jointId);
  }

  outputOf(boardId: string): BoardOutput | undefined {
    return this.outputs.find((candidate) => candidate.boardId === boardId);
  }

  /** It is this moment now: what happens from here on happens then. */
  set nowMs(nowMs: number) {
    this.#nowMs = nowMs;
  }

  /**
   * The one way in which a joint changes hands (see `hands.ts`), with what becomes of its wish. `asked` is what the new one asks for, `by` the lead or
   * the press that takes it. Says whether it may be.
   */
  happen(index: number, what: Happening, asked = Number.NaN, by: string | Press | null = null): boolean {
    const live = this.joints[index] as LiveJoint;
    const { hands, passage } = live;
    const { press } = hands;
    const { blendMs } = live.joint.control;
    this.movements += 1;
    const wish = hands.happen(what, { nowMs: this.#nowMs, standsAt: passage.target, blendMs }, by);
    if (wish === null) return false;
    if (wish === "stay") this.wishes[index] = passage.target;
    else if (wish === "asked") this.wishes[index] = asked;
    else if (wish === "rest") {
      if (press) this.wishes[index] = press.backTo;
      // What turned to be measured does not go on turning.
      if (live.joint.axis.kind === "spin") this.wishes[index] = live.limits.map.homeTarget;
    }
    if (!hands.isHeld) goLimp(live);
    return true;
  }

  /** The same to all joints. */
  happenToAll(what: Happening): void {
    for (const index of this.joints.keys()) this.happen(index, what);
  }

  /** The same to all joints of a board. */
  happenOn(output: BoardOutput, what: Happening): void {
    for (const [index, live] of this.joints.entries()) if (live.output === output) this.happen(index, what);
  }

  /** Holds a joint where it stands; one of a silent board stays as it is. */
  hold(index: number): void {
    if (!this.joints[index]?.output.isSilent) this.happen(index, "hold");
  }

  /**
   * Held joints of a board go on from the numbers that it says it holds, by channel; what it holds none of is released. Not so one whose first number
   * is still to be sent, or on its way: the board speaks of a time before that.
   */
  standAsHeard(output: BoardOutput, heard: ArrayLike<number>, isOnItsWay: (channel: number) => boolean): void {
    for (const [index, live] of this.joints.entries()) {
      const { channel } = live.joint;
      if (live.output !== output || !live.hands.isHeld) continue;
      const count = heard[channel] as number;
      // A continuous servo at rest has no signal though it is held.
      if (!Number.isNaN(count)) standAt(live, count);
      else if (!live.isLimpAtRest && !Number.isNaN(output.counts[live.slot]) && !isOnItsWay(channel))
        this.happen(index, "release");
    }
  }

  /** Moves every joint on towards its wish, as far as the gate lets it, and puts its count into the frame of its board. */
  advance(nowMs: number, dtMs: number): void {
    for (let index = 0; index < this.joints.length; index += 1) {
      const live = this.joints[index] as LiveJoint;
      const { hands } = live;
      if (hands.press) {
        const wish = this.wishes[index] as number;
        this.wishes[index] = pressOn(hands.press, nowMs, wish, standsAt(live, wish));
      }
      if (hands.isHeld && !live.output.isWaiting) {
        const wish = hands.blended(this.wishes[index] as number, nowMs);
        passGate(hands.isMeasured ? live.openLimits : live.limits, wish, dtMs, live.passage);
        if (live.isLimpAtRest && live.passage.target === 0 && !hands.isMeasured) goLimp(live);
      }
      // Not “is not the same”: no signal is not equal to itself.
      if (!Object.is(live.output.counts[live.slot], live.passage.count)) this.movements += 1;
      live.output.counts[live.slot] = live.passage.count;
    }
  }

  /** Writes the joints into a snapshot (see `snapshot.ts`), but for who has them. */
  write(snapshot: Float64Array): void {
    for (let index = 0; index < this.joints.length; index += 1) {
      const { hands, passage } = this.joints[index] as LiveJoint;
      setJoint(snapshot, index, "isHeld", hands.isHeld ? 1 : 0);
      setJoint(snapshot, index, "wish", this.wishes[index] as number);
      setJoint(snapshot, index, "target", passage.target);
      setJoint(snapshot, index, "count", passage.count);
      setJoint(snapshot, index, "setPoint", passage.setPoint);
      setJoint(snapshot, index, "pressing", hands.press?.phase ?? pressing.none);
      setJoint(snapshot, index, "heldBack", hands.isHeld ? passage.heldBack : heldBack.nothing);
    }
  }
}
