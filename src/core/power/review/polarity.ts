import { byId, type PlugOrder, usualBoardPower, usualCardPower } from "@core/project";
import type { Concern, Rule } from "./rule";

/** The conductors of a plug in their order, from the edge of the board. */
export const plugRoles: Readonly<Record<PlugOrder, readonly ("ground" | "supply" | "signal")[]>> = {
  groundSupplySignal: ["ground", "supply", "signal"],
  supplyGroundSignal: ["supply", "ground", "signal"],
  signalSupplyGround: ["signal", "supply", "ground"],
};

export const plugWords = (order: PlugOrder): string => plugRoles[order].join(", ");

/** What happens to a plug of each order that is put onto pins the wrong way. */
export const plugTraps: Readonly<Record<PlugOrder, string>> = {
  groundSupplySignal: "Supply in the middle: turned round it does nothing, and nothing burns.",
  supplyGroundSignal:
    "Supply at the edge: on pins with the supply in the middle, ground and supply are exchanged, and it burns at once.",
  signalSupplyGround: "Supply in the middle, signal at the edge: turned round it does nothing, and nothing burns.",
};

/** Plugs whose wires lie in another order than the board's pins. */
export const polarity: Rule = {
  name: "Which wire is which",
  why: "Most plugs have the supply in the middle, so that one turned round does no harm. Some old ones have it at the edge: on common pins they are fed the wrong way round, and burn.",
  find: ({ project, servos }) =>
    servos.flatMap(({ joint, card }): Concern[] => {
      const board = byId(project.boards, joint.boardId);
      if (board.encoding.kind === "bus") return [];
      const { header } = board.power ?? usualBoardPower;
      const power = card.power ?? usualCardPower;
      if (power.plug === header) return [];
      const burns = power.plug === "supplyGroundSignal" || header === "supplyGroundSignal";
      return [
        {
          weight: burns ? "harm" : "fails",
          about: { kind: "joint", id: joint.id },
          sentence: `The plug of ${joint.label} has ${plugWords(power.plug)}; the pins of ${board.label} have ${plugWords(header)}: ${burns ? "it would be fed the wrong way round" : "it must be plugged in turned round"}.`,
          advice: burns ? "Do not plug it in before the contacts of its plug are exchanged." : null,
          waysOut: [
            {
              words: burns ? "Its plug has been changed to the board's order" : "It is plugged in that way",
              wiring: { cards: [{ cardId: card.id, power: { ...power, plug: header } }] },
            },
          ],
        },
      ];
    }),
};
