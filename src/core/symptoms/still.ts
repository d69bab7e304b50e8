import { figure } from "@core/numbers";
import { frameClues, powerClues } from "./known";
import { maybe, type Symptom, so } from "./symptom";

export const still: Symptom = {
  says: "It does not move at all",
  alike: "dead limp nothing happens no reaction does nothing stuck silent answer",
  clues: (look) => {
    const { joint, card, board, map } = look.bench;
    const { isAnswering, isReal, isHeld } = look.now;
    const hasNoRoom = joint.axis.kind === "angle" && map.highTarget - map.lowTarget < 1;
    const place =
      card.kind === "smart"
        ? maybe("scan", `Somebody has to bear the number ${joint.channel} on the bus: see who answers.`)
        : maybe(
            "sheets",
            `Its plug belongs on channel ${joint.channel} of ${board.label}. The darkest wire is ground, the middle one supply, the light one signal; all grounds are one.`,
          );
    return [
      ...(isAnswering ? [] : [so("links", `${board.label} does not answer: nothing that is sent arrives.`)]),
      ...(isReal
        ? []
        : [
            so(
              "links",
              `${board.label} is simulated: only the servo on the screen turns. Choose the wire of your board.`,
            ),
          ]),
      ...(isHeld ? [] : [so("hold", `${joint.label} is limp: it gets no signal until you hold it.`)]),
      ...(hasNoRoom
        ? [
            so(
              "limits",
              `Its travel limits leave it nothing: ${figure(map.lowTarget, 1)}° to ${figure(map.highTarget, 1)}°.`,
            ),
          ]
        : []),
      ...frameClues(look.bench),
      ...powerClues(look, ["unfed", "polarity", "voltage", "noMotorSupply", "ground", "joined", "level"]),
      place,
      maybe("wiring", "It needs a supply of its own: a port of the computer or a pin of the board is none."),
    ];
  },
};
