import { byId, type Joint } from "@core/project";
import { type JointBench, jointBench } from "@core/rig";
import { useMemo } from "react";
import { useProject } from "./document";

export { type JointBench, jointBenchOf } from "@core/rig";

/** A joint with all that is needed to speak of it; it changes only when the joint, its card or its board does. */
export function useJointBench(joint: Joint): JointBench {
  const card = useProject((project) => byId(project.cards, joint.cardId));
  const board = useProject((project) => byId(project.boards, joint.boardId));
  return useMemo(() => jointBench(joint, card, board), [joint, card, board]);
}
