import { figure } from "@core/numbers";
import { leadLabel, leadsTo } from "./known";
import { type Clue, inChain, maybe, type Symptom, so, spinsOn } from "./symptom";

export const creeps: Symptom = {
  says: "It turns on where it should rest",
  alike: "creep drift slowly turning zero neutral stop continuous does not stop",
  onlyOf: spinsOn,
  clues: ({ project, bench }) => {
    const { joint, card } = bench;
    if (card.kind !== "continuous" || joint.axis.kind !== "spin") return [];
    const last = card.calibrations.at(-1);
    const made = last?.kind === "spin" ? last : null;
    const clues: Clue[] = [];
    if (!made?.rest)
      clues.push(
        so(
          "neutral",
          `Where it rests nobody has looked: ${figure(made?.neutral ?? card.nominal.neutral, 1)} µs is its data sheet’s, and rarely exactly so.`,
        ),
      );
    else if (made.neutral < made.rest.low || made.neutral > made.rest.high)
      clues.push(
        so(
          "neutral",
          `Its neutral, ${figure(made.neutral, 1)} µs, lies outside of where it was found to rest: ${figure(made.rest.low, 1)} to ${figure(made.rest.high, 1)} µs.`,
        ),
      );
    if (made?.creepDegPerS)
      clues.push(so("neutral", `At its neutral it was seen to creep by ${figure(made.creepDegPerS, 1)} °/s.`));
    return [
      ...clues,
      ...leadsTo(project, joint.id).map((lead) =>
        inChain(
          lead.id,
          false,
          `${leadLabel(project, lead)} leads it: with a deadband about its middle, a stick that is let go is a true zero.`,
        ),
      ),
      joint.axis.atRest === "neutral"
        ? maybe(
            "neutral",
            "At zero it gets its neutral. Where that never holds it still, let zero be no signal at all.",
          )
        : maybe("neutral", "At zero it gets no signal at all: one that turns even so is adjusted at the servo itself."),
    ];
  },
};
