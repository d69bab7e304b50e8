import type { SignalMaker } from "@core/encodings";
import { type Board, byId, type Joint, type Project, type ServoCard } from "@core/project";
import { signalMakerOf } from "@core/signal";
import { type JointMap, jointMapOf } from "./jointMap";
import { type JointScale, jointScaleOf } from "./jointScale";

/** A joint with all that is needed to speak of it: its servo, its board, and the ways between their numbers. */
export interface JointBench {
  readonly joint: Joint;
  readonly card: ServoCard;
  readonly board: Board;
  readonly map: JointMap;
  readonly maker: SignalMaker;
  readonly scale: JointScale;
}

export function jointBench(joint: Joint, card: ServoCard, board: Board): JointBench {
  const map = jointMapOf(joint, card);
  return { joint, card, board, map, maker: signalMakerOf(board, joint.channel), scale: jointScaleOf(joint, card, map) };
}

export const jointBenchOf = (project: Project, joint: Joint): JointBench =>
  jointBench(joint, byId(project.cards, joint.cardId), byId(project.boards, joint.boardId));
