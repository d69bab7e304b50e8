import { type Board, byId, type Joint, type Project, type ServoCard } from "@core/project";
import { type JointMap, type JointScale, jointMapOf, jointScaleOf } from "@core/rig";
import { type SignalMaker, signalMakerOf } from "@core/signal";
import { useMemo } from "react";
import { useProject } from "./document";

/** A joint with everything that a view needs to speak of it. */
export interface JointBench {
  readonly joint: Joint;
  readonly card: ServoCard;
  readonly board: Board;
  readonly map: JointMap;
  readonly maker: SignalMaker;
  readonly scale: JointScale;
}

export function jointBenchOf(project: Project, joint: Joint): JointBench {
  return assemble(joint, byId(project.cards, joint.cardId), byId(project.boards, joint.boardId));
}

function assemble(joint: Joint, card: ServoCard, board: Board): JointBench {
  const map = jointMapOf(joint, card);
  return { joint, card, board, map, maker: signalMakerOf(board), scale: jointScaleOf(joint, card, map) };
}

/** The same as a hook: it changes only when this joint, its card or its board does. */
export function useJointBench(joint: Joint): JointBench {
  const card = useProject((project) => byId(project.cards, joint.cardId));
  const board = useProject((project) => byId(project.boards, joint.boardId));
  return useMemo(() => assemble(joint, card, board), [joint, card, board]);
}
