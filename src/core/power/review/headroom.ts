import type { Supply } from "@core/project";
import { suppliesIn } from "./look";
import { type Concern, type Rule, volts } from "./rule";

/** A linear regulator without a heat sink bears this much, in W. */
const bearsW = 1.5;

/** Regulators that are given too little, and linear ones that get too hot. */
export const headroom: Rule = {
  name: "Regulators",
  why: "A regulator needs to be given more than it gives, else its voltage sinks with that of its supply. A linear one turns all the rest into heat.",
  find: (look) =>
    suppliesIn(look).flatMap(({ supply, at }): Concern[] => {
      const { gives } = supply;
      if (gives.kind !== "regulator" || !look.net.isFed[at]) return [];
      const about = { kind: "supply", id: supply.id } as const;
      const solved = look.all("moving", 0);
      const parent = look.net.parents[at] as number;
      const comesV = (solved.volts[parent] as number) - (look.net.ohms[at] as number) * (solved.amps[at] as number);
      const spareV = comesV - gives.volts;
      const concerns: Concern[] = [];
      if (spareV < gives.headroomVolts - 0.005)
        concerns.push({
          weight: "fails",
          about,
          sentence: `${supply.label} gives ${volts(gives.volts)} and needs ${volts(gives.headroomVolts)} more; it is given ${volts(comesV)} while all turn.`,
          advice: "A supply of more voltage before it is needed, or one that needs less headroom.",
          waysOut:
            comesV - gives.headroomVolts >= 0.5
              ? [lower(supply, Math.floor((comesV - gives.headroomVolts) * 10) / 10)]
              : [],
        });
      const full = look.all("moving", 1);
      const fullV = (full.volts[parent] as number) - (look.net.ohms[at] as number) * (full.amps[at] as number);
      const heatW = gives.works === "linear" ? Math.max(0, fullV - gives.volts) * (full.givenA[at] as number) : 0;
      if (heatW > bearsW)
        concerns.push({
          weight: "harm",
          about,
          sentence: `${supply.label} is linear and makes ${heatW.toFixed(1)} W of heat while all turn; without a heat sink it bears ${bearsW} W.`,
          advice: null,
          waysOut: [
            {
              words: "A switching one instead",
              wiring: { supplies: [{ ...supply, gives: { ...gives, works: "switching", efficiency: 0.9 } }] },
            },
          ],
        });
      return concerns;
    }),
};

const lower = (supply: Supply, to: number) => ({
  words: `Set it to ${volts(to)}`,
  wiring: { supplies: [{ ...supply, gives: { ...supply.gives, volts: to } as Supply["gives"] }] },
});
