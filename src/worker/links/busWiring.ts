import { type Board, byId, type Project } from "@core/project";

/** Everything that a link to a bus depends on. Two projects share no bus: what its simulated devices keep lies beside the project. */
export const busWiringOf = (board: Board, project: Project): readonly unknown[] => [
  project.id,
  board,
  project.simulatedDevices.filter((device) => device.boardId === board.id),
  project.layouts,
  project.joints
    .filter((joint) => joint.boardId === board.id)
    .map((joint) => {
      const card = byId(project.cards, joint.cardId);
      return [
        joint.id,
        joint.channel,
        joint.cardId,
        card.kind === "smart" && [card.layoutId, card.nominal, card.travelDeg],
      ];
    }),
];
