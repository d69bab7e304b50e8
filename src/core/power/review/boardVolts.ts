import { usualBoardPower } from "@core/project";
import { supplyBefore } from "../net";
import { type Concern, type Rule, volts } from "./rule";

/** Boards that start anew when servos pull their supply down. */
export const boardVolts: Rule = {
  name: "Boards stay awake",
  why: "A board whose supply sinks below what it needs starts anew: all of its servos go limp, and whatever they hold falls.",
  find: ({ project, net, all }) =>
    net.places.flatMap((place, at): Concern[] => {
      if (place.kind !== "board" || !net.isFed[at]) return [];
      const supply = supplyBefore(net, at);
      const board = project.boards.find(({ id }) => id === place.id);
      if (!supply || !board) return [];
      const solved = all("starting", 0);
      const isBrokenDown = net.places.some((one, other) => one.kind === "supply" && solved.isLimited[other] === 1);
      const { lowestVolts } = board.power ?? usualBoardPower;
      const reachesV = solved.volts[at] as number;
      // A supply that breaks down is said where its strength is looked at.
      if (reachesV >= lowestVolts || isBrokenDown) return [];
      const run = net.runs[at];
      return [
        {
          weight: "fails",
          about: { kind: "board", id: board.id },
          sentence: `${board.label} gets ${volts(reachesV)} when all servos start together, and starts anew below ${volts(lowestVolts)}.`,
          advice: "Feed it from a supply of its own, with a common ground, or start the servos one after another.",
          waysOut:
            run && run.from.kind === "rail"
              ? [
                  {
                    words: `Feed it from ${supply.label} itself`,
                    wiring: { runs: [{ ...run, from: { kind: "supply", id: supply.id } }] },
                  },
                ]
              : [],
        },
      ];
    }),
};
