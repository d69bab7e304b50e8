import { toAngleDeg } from "@core/calibrate";
import { type GateLimits, type GatePassage, gateLimits, heldBack, openLimits } from "@core/gate";
import { byId, type Joint, type Project, type ServoCard } from "@core/project";
import { jointDegOf, jointMapOf } from "@core/rig";
import { feedbackCurveOf } from "@core/servo";
import { signalMakerOf } from "@core/signal";
import type { BoardOutput } from "./boardOutput";
import type { Command } from "./commands";
import { owner, pressing } from "./snapshot";

/** One joint as the engine lives with it. */
export interface LiveJoint {
  readonly joint: Joint;
  readonly card: ServoCard;
  readonly limits: GateLimits;
  /** The limits while it is calibrated: the hard window alone, no travel. */
  readonly openLimits: GateLimits;
  isCalibrating: boolean;
  press: Press | null;
  /** At a spin of 0 it gets no signal. */
  readonly isLimpAtRest: boolean;
  readonly output: BoardOutput;
  /** Its place among the channels of its board's frame. */
  readonly slot: number;
  isHeld: boolean;
  owner: number;
  /** When the one who has it last moved it. */
  touchedMs: number;
  /** While it goes over from one hand to the next: from which target, since when, for how long. */
  handover: { readonly from: number; readonly sinceMs: number; readonly ms: number } | null;
  readonly passage: GatePassage;
  /** What its board last read of it; NaN for nothing. */
  reading: number;
  /** At which target a reading says that it stands; null for a servo whose readings say nothing. */
  readonly toSeen: ((reading: number) => number) | null;
}

/** A step against a possible stop, as it runs: the wishes it goes through, and since when. */
interface Press {
  readonly fromMs: number;
  readonly settleMs: number;
  readonly forMs: number;
  readonly to: number;
  readonly backTo: number;
  phase: (typeof pressing)[keyof typeof pressing];
}

/** However long somebody asks for. */
const longestPressAllowedMs = 2000;
/** A joint of the project as it begins its life: released, and its own. */
export function enliven(project: Project, joint: Joint, outputs: readonly BoardOutput[]): LiveJoint {
  const card = byId(project.cards, joint.cardId);
  const board = byId(project.boards, joint.boardId);
  const output = outputs.find((candidate) => candidate.boardId === joint.boardId) as BoardOutput;
  const map = jointMapOf(joint, card);
  const limits = gateLimits(map, signalMakerOf(board, joint.channel), card.window);
  return {
    joint,
    card,
    limits,
    openLimits: openLimits(limits),
    isCalibrating: false,
    press: null,
    isLimpAtRest: joint.axis.kind === "spin" && joint.axis.atRest === "release",
    output,
    slot: output.channels.indexOf(joint.channel),
    isHeld: false,
    owner: owner.nobody,
    touchedMs: 0,
    handover: null,
    passage: { target: 0, register: Number.NaN, setPoint: Number.NaN, heldBack: heldBack.nothing },
    reading: Number.NaN,
    toSeen: seenBy(joint, card),
  };
}

function seenBy({ axis }: Joint, card: ServoCard): LiveJoint["toSeen"] {
  if (axis.kind !== "angle" || card.kind === "continuous") return null;
  const curve = feedbackCurveOf(card);
  return curve && ((reading) => jointDegOf(axis, toAngleDeg(curve, reading)));
}

export const isMovable = (live: LiveJoint | undefined): live is LiveJoint =>
  live?.isHeld === true && !live.output.isSilent;

/** A joint whose board says where it stands: it is there, and nobody has it. */
export function standAt(live: LiveJoint, register: number): void {
  const { map, maker } = live.limits;
  live.passage.register = register;
  live.passage.setPoint = maker.toSetPoint(register);
  live.passage.target = map.toTarget(live.passage.setPoint);
  live.handover = null;
  live.owner = owner.nobody;
}

/** No signal, and nobody has it. */
export function release(live: LiveJoint): void {
  live.isHeld = false;
  live.isCalibrating = false;
  live.press = null;
  live.owner = owner.nobody;
  live.handover = null;
  live.passage.register = Number.NaN;
  live.passage.setPoint = Number.NaN;
}

/** Whether a changed joint is still the same servo on the same channel. */
export const isSameWire = (a: Joint, b: Joint) =>
  a.boardId === b.boardId && a.channel === b.channel && a.cardId === b.cardId && a.axis.kind === b.axis.kind;

/** Takes the life of a joint over into its changed self, set point for set point. Gives the wish in the new measure. */
export function carryOver(from: LiveJoint, wish: number, to: LiveJoint): number {
  to.isHeld = from.isHeld;
  to.owner = from.owner;
  to.touchedMs = from.touchedMs;
  to.isCalibrating = from.isCalibrating;
  const rewish = (target: number) => to.limits.map.toTarget(from.limits.map.toSetPoint(target));
  to.press = from.press && { ...from.press, to: rewish(from.press.to), backTo: rewish(from.press.backTo) };
  const isSame = from.card === to.card && from.joint.axis === to.joint.axis;
  const measured = (target: number) => (isSame ? target : rewish(target));
  to.passage.target = measured(from.passage.target);
  to.passage.register = from.passage.register;
  to.passage.setPoint = from.passage.setPoint;
  to.passage.heldBack = from.passage.heldBack;
  // Who was just given the joint goes on taking it over softly: an edit is no reason to leap.
  to.handover = from.handover && { ...from.handover, from: measured(from.handover.from) };
  return measured(wish);
}

type PressCommand = Extract<Command, { kind: "press" }>;

/** Begins a step against a possible stop. Gives the first wish, or NaN, with nothing changed, where something is not a number. */
export function beginPress(live: LiveJoint, command: PressCommand, nowMs: number): number {
  const { map } = live.openLimits;
  const [from, to, backTo] = [command.from, command.to, command.backTo].map(map.toTarget) as [number, number, number];
  if (![from, to, backTo, command.settleMs, command.forMs].every(Number.isFinite)) return Number.NaN;
  const forMs = Math.min(command.forMs, longestPressAllowedMs);
  live.isCalibrating = true;
  // Its steps are small and timed: nothing that still goes over from another hand may be mixed into them.
  live.handover = null;
  live.press = { fromMs: nowMs, settleMs: command.settleMs, forMs, to, backTo, phase: pressing.standing };
  return from;
}

/** Lets time pass on a step. Gives the joint's wish: a new one where a new phase begins. */
export function pressOn(press: Press, nowMs: number, wish: number): number {
  const ms = nowMs - press.fromMs;
  const phase = ms >= press.forMs ? pressing.back : ms >= press.settleMs ? pressing.pressing : pressing.standing;
  if (phase === press.phase) return wish;
  press.phase = phase;
  return phase === pressing.pressing ? press.to : press.backTo;
}
