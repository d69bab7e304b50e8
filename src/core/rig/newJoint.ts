import type { Axis, Board, Joint, Project, ServoCard } from "@core/project";

/** The axis that a joint begins with: 0° in the middle of its servo, and careful limits until somebody knows better. */
export function newAxis(card: ServoCard): Axis {
  if (card.kind === "continuous") return { kind: "spin", direction: 1, limit: 1, rampPerS: 2, atRest: "neutral" };
  const reach = Math.min(45, card.travelDeg / 3);
  return {
    kind: "angle",
    direction: 1,
    zeroDeg: card.travelDeg / 2,
    travel: { low: -reach, high: reach },
    homeDeg: 0,
    speedLimitDegPerS: 120,
  };
}

/** Whether a board can drive a servo at all: smart servos want a bus, the others pulses. */
export const isBoardFor = (board: Board, card: ServoCard): boolean =>
  (board.encoding.kind === "bus") === (card.kind === "smart");

/** Channels of a board that nothing is wired to, but for the joint that asks. A bus keeps id 0 for nobody. */
export function freeChannels(project: Project, board: Board, asking?: Joint): readonly number[] {
  const taken = new Set(
    project.joints
      .filter((joint) => joint.boardId === board.id && joint.id !== asking?.id)
      .map((joint) => joint.channel),
  );
  const first = board.encoding.kind === "bus" ? 1 : 0;
  return Array.from({ length: board.channels - first }, (_, at) => at + first).filter((channel) => !taken.has(channel));
}

/** Cards whose servo is built in nowhere and not retired. */
export const looseCards = (project: Project): readonly ServoCard[] => {
  const worn = new Set(project.joints.map((joint) => joint.cardId));
  return project.cards.filter((card) => !worn.has(card.id) && card.standing !== "retired");
};
