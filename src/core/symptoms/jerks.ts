import { figure } from "@core/numbers";
import type { ShaperKind } from "@core/shapers";
import { degPerCount, leadLabel, leadsTo } from "./known";
import { inChain, maybe, type Symptom, so } from "./symptom";

/** What makes steps of a smooth number. */
const stepping: ReadonlySet<ShaperKind> = new Set(["detents", "sample", "change"]);

export const jerks: Symptom = {
  says: "It moves in jerks",
  alike: "steps jerky not smooth coarse stutter sweep robot",
  clues: ({ project, bench }) => {
    const { joint, board, maker } = bench;
    const stepDeg = degPerCount(bench);
    const periodMs = maker.periodUs / 1000;
    return [
      ...(stepDeg >= 0.75
        ? [
            so(
              "sideBySide",
              `One count of ${board.label} turns it by ${figure(stepDeg, 1)}°: slow moves come in such steps.`,
            ),
          ]
        : []),
      ...(periodMs > 25 ? [so("board", `${board.label} sends a frame only every ${figure(periodMs, 1)} ms.`)] : []),
      ...leadsTo(project, joint.id)
        .filter((lead) => lead.shapers.some(({ kind }) => stepping.has(kind)))
        .map((lead) => inChain(lead.id, true, `${leadLabel(project, lead)} is made into steps on its way.`)),
      maybe(
        "sweep",
        "A program that turns it step by step: more than about 2° at once looks jerky, and so does a wait that is longer than the step takes.",
      ),
      maybe("routine", "In a routine: moves that begin and end hard. An easing lets them gather speed."),
    ];
  },
};
