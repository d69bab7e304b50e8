import { figure } from "@core/numbers";
import { ratedSpeedDegPerS } from "@core/servo";
import { powerClues, tooLittle } from "./known";
import { maybe, type Symptom, so } from "./symptom";

export const late: Symptom = {
  says: "It is slow, or arrives late",
  alike: "slow lag delay does not reach cut short weak speed",
  clues: (look) => {
    const { joint, card } = look.bench;
    const ratedDegPerS = ratedSpeedDegPerS(card);
    const limit = joint.axis.kind === "angle" ? joint.axis.speedLimitDegPerS : null;
    return [
      ...(limit !== null && limit < 0.9 * ratedDegPerS
        ? [
            so(
              "drive",
              `Its speed limit is ${figure(limit, 0)} °/s; its card rates it at ${figure(ratedDegPerS, 0)} °/s.`,
            ),
          ]
        : []),
      ...powerClues(look, tooLittle),
      maybe(
        "sweep",
        `A program that does not wait: at ${figure(ratedDegPerS, 0)} °/s 60° take ${figure(60 / ratedDegPerS, 2)} s, without a load.`,
      ),
      maybe("routine", "In a routine: its check names each move that is too fast, and stretches it by one click."),
      maybe(
        "wiring",
        `Rated at ${figure(card.rating.atVolts, 1)} V: with less at its plug it is slower. See what reaches it.`,
      ),
    ];
  },
};
