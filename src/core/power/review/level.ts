import { byId, usualBoardPower } from "@core/project";
import type { Fed } from "./look";
import { type Concern, few, type Rule, volts } from "./rule";

/** Of the servo's supply, where its card does not say: half is where the inputs of such chips change their mind. */
const usualShare = 0.5;
/** A pin under load gives this share of its logic voltage. */
const pinShare = 0.9;

/** Signals that a servo may not take as high, or that are higher than its supply. */
export const level: Rule = {
  name: "Signal level",
  why: "A servo takes a signal as high from some voltage on, often half of its supply. A board of 3.3 V may not reach that; a signal far above the servo's supply feeds it through its input.",
  find: ({ project, net, servos, all }) => {
    const groups = new Map<
      string,
      { boardId: string; isKnown: boolean; isOver: boolean; needV: number; labels: string[] }
    >();
    for (const servo of servos) {
      const board = byId(project.boards, servo.joint.boardId);
      if (board.encoding.kind === "bus" || !net.isFed[servo.at]) continue;
      const { logicVolts } = board.power ?? usualBoardPower;
      const supplyV = all("standing", 1).volts[servo.at] as number;
      const needV = needOf(servo, supplyV);
      const isOver = logicVolts > supplyV + 0.7;
      if (!isOver && logicVolts * pinShare >= needV) continue;
      const isKnown = servo.card.power?.highVolts != null;
      const key = `${board.id} ${isOver} ${isKnown}`;
      const group = groups.get(key) ?? { boardId: board.id, isKnown, isOver, needV: 0, labels: [] };
      group.needV = isOver ? supplyV : Math.max(group.needV, needV);
      group.labels.push(servo.joint.label);
      groups.set(key, group);
    }
    return [...groups.values()].map(({ boardId, isKnown, isOver, needV, labels }): Concern => {
      const board = byId(project.boards, boardId);
      const power = board.power ?? usualBoardPower;
      const names = few(labels);
      return {
        weight: isOver ? "harm" : isKnown ? "fails" : "mind",
        about: { kind: "board", id: boardId },
        sentence: isOver
          ? `${board.label} gives signals of ${volts(power.logicVolts)}, and ${names} ${labels.length > 1 ? "are" : "is"} fed with ${volts(needV)}.`
          : `${board.label} gives signals of ${volts(power.logicVolts)}; ${names} ${isKnown ? (labels.length > 1 ? "take" : "takes") : `may take`} ${volts(needV)} and more as high${isKnown ? "" : ", half of the supply: the card does not say"}.`,
        advice: "A level shifter between them mends it, or a board of another logic voltage.",
        waysOut: [],
      };
    });
  },
};

const needOf = ({ card }: Fed, supplyV: number): number => card.power?.highVolts ?? usualShare * supplyV;
