import { toAngleDeg } from "@core/calibrate";
import { type GateLimits, type GatePassage, gateLimits, heldBack, openLimits } from "@core/gate";
import { byId, type Joint, type Project, type ServoCard } from "@core/project";
import { jointDegOf, jointMapOf } from "@core/rig";
import { feedbackCurveOf } from "@core/servo";
import { signalMakerOf } from "@core/signal";
import { dequal } from "dequal";
import type { BoardOutput } from "./boardOutput";
import { Hands } from "./hands";

/** One joint as the engine lives with it. */
export interface LiveJoint {
  readonly joint: Joint;
  readonly card: ServoCard;
  readonly limits: GateLimits;
  /** The limits while it is calibrated: the hard window alone, no travel. */
  readonly openLimits: GateLimits;
  /** At a spin of 0 it gets no signal. */
  readonly isLimpAtRest: boolean;
  readonly output: BoardOutput;
  /** Its place among the channels of its board's frame. */
  readonly slot: number;
  /** Who has it. */
  readonly hands: Hands;
  readonly passage: GatePassage;
  /** What its board last read of it; NaN for nothing. */
  reading: number;
  /** At which target a reading says that it stands; null for a servo whose readings say nothing. */
  readonly toSeen: ((reading: number) => number) | null;
}

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
    isLimpAtRest: joint.axis.kind === "spin" && joint.axis.atRest === "release",
    output,
    slot: output.channels.indexOf(joint.channel),
    hands: new Hands(),
    passage: { target: 0, count: Number.NaN, setPoint: Number.NaN, heldBack: heldBack.nothing },
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
  live?.hands.isHeld === true && !live.output.isSilent;

/** A joint whose board says where it stands: it is there. */
export function standAt(live: LiveJoint, count: number): void {
  const { map, maker } = live.limits;
  live.passage.count = count;
  live.passage.setPoint = maker.toSetPoint(count);
  live.passage.target = map.toTarget(live.passage.setPoint);
}

/** No signal. */
export function goLimp(live: LiveJoint): void {
  live.passage.count = Number.NaN;
  live.passage.setPoint = Number.NaN;
}

/** Whether a changed joint is still the same servo on the same channel. */
export const isSameWire = (a: Joint, b: Joint) =>
  a.boardId === b.boardId && a.channel === b.channel && a.cardId === b.cardId && a.axis.kind === b.axis.kind;

/**
 * Takes the life of a joint over into its changed self, set point for set point. Gives the wish in the new measure, and whether that is the same as
 * the old one.
 */
export function carryOver(
  from: LiveJoint,
  wish: number,
  to: LiveJoint,
): { readonly wish: number; readonly isSameMeasure: boolean } {
  const rewish = (target: number) => to.limits.map.toTarget(from.limits.map.toSetPoint(target));
  // Compared by what is written there: the worker gets a copy of everything at each edit.
  const isSame = dequal([from.card, from.joint.axis], [to.card, to.joint.axis]);
  const measured = (target: number) => (isSame ? target : rewish(target));
  to.passage.target = measured(from.passage.target);
  to.passage.count = from.passage.count;
  to.passage.setPoint = from.passage.setPoint;
  to.passage.heldBack = from.passage.heldBack;
  to.hands.carryOver(from.hands, measured);
  return { wish: measured(wish), isSameMeasure: isSame };
}

/** Whether the gate has let a joint go as far as this target, to a step of its board. */
export const standsAt = ({ openLimits: { map, maker }, passage }: LiveJoint, target: number): boolean =>
  Math.abs(passage.setPoint - map.toSetPoint(target)) <= maker.step;
