import { placeLabel } from "../net";
import type { Rule } from "./rule";

/** Two supplies on one place. */
export const joined: Rule = {
  name: "One supply for each",
  why: "Two supplies on one rail never agree: the higher one feeds the lower, which may not bear it.",
  find: ({ project, net }) =>
    net.seconds.map((run) => ({
      weight: "harm" as const,
      about: { kind: "run" as const, id: run.id },
      sentence: `${placeLabel(project, run.to)} is fed twice: by ${placeLabel(project, run.from)} as well.`,
      advice: null,
      waysOut: [
        { words: `Take the wire from ${placeLabel(project, run.from)} away`, wiring: { lostRunIds: [run.id] } },
        { words: "Leave only its ground", wiring: { runs: [{ ...run, carries: "ground" as const }] } },
      ],
    })),
};
