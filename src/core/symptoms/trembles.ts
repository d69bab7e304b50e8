import { figure } from "@core/numbers";
import { setPointUnit } from "@core/project";
import type { ShaperKind } from "@core/shapers";
import { frameClues, leadLabel, leadsTo, powerClues, tooLittle } from "./known";
import { inChain, maybe, type Symptom, so } from "./symptom";

/** What keeps small changes of a source from its target. */
const calming: ReadonlySet<ShaperKind> = new Set(["smooth", "deadband", "change", "detents", "sample", "rate"]);

export const trembles: Symptom = {
  says: "It buzzes, trembles or twitches",
  alike: "jitter shake noise nervous hunting buzz twitch tremble",
  clues: (look) => {
    const { project, bench } = look;
    const { joint, card, board } = bench;
    const raw = leadsTo(project, joint.id).filter((lead) => !lead.shapers.some(({ kind }) => calming.has(kind)));
    return [
      ...(board.encoding.kind === "software"
        ? [
            so(
              "wobble",
              `${board.label} times its pulses by software: a late wake-up makes one longer. What leaves the deadband of ${figure(card.deadband, 1)} ${setPointUnit(card)} is a twitch.`,
            ),
          ]
        : []),
      ...frameClues(bench),
      ...raw.map((lead) =>
        inChain(
          lead.id,
          true,
          `${leadLabel(project, lead)} leads it as it comes: nothing in its chain smooths it, or leaves small changes out.`,
        ),
      ),
      ...powerClues(look, tooLittle),
      ...(card.kind === "continuous"
        ? []
        : [
            maybe("stops", "Only near an end? Then it presses against its stop."),
            maybe("weight", "Only where it holds much? Then it is asked for more than it can hold."),
          ]),
      maybe("wiring", "With several that move? Then the supply dips, or the ground between board and servos is thin."),
    ];
  },
};
