import type { Run, Supply } from "@core/project";
import { jointsFedBy } from "../net";
import type { Fed, Look } from "./look";
import { suppliesIn } from "./look";
import { amps, type Concern, few, limitForA, type Rule, type WayOut } from "./rule";

/** Servos on a computer's port or on a pin of a board. */
export const noMotorSupply: Rule = {
  name: "A supply for motors",
  why: "A port or a pin is made for logic. Motors pull its voltage down, kick back into it when they stop, and can take the port, the pin or the whole board with them.",
  find: (look) =>
    suppliesIn(look).flatMap(({ supply, at }): Concern[] => {
      const { kind } = supply.gives;
      if (kind !== "port" && kind !== "pin") return [];
      const ids = new Set(jointsFedBy(look.net, supply.id));
      const servos = look.servos.filter(({ joint }) => ids.has(joint.id));
      if (servos.length === 0) return [];
      const askedA = look.all("starting", 1, false).givenA[at] as number;
      return [
        {
          weight: "harm",
          about: { kind: "supply", id: supply.id },
          sentence: `${few(servos.map(({ joint }) => joint.label))} ${servos.length > 1 ? "are" : "is"} fed by ${supply.label}, ${kind === "port" ? "a computer's port" : "a pin of a board"}: ${amps(askedA)} as ${servos.length > 1 ? "they start" : "it starts"}, of ${amps(supply.limitMa / 1000)}.`,
          advice: null,
          waysOut: adapterInstead(look, supply, servos, askedA),
        },
      ];
    }),
};

/** An adapter of the servos' own voltage, on all the wires that carried them. */
function adapterInstead({ project }: Look, supply: Supply, servos: readonly Fed[], askedA: number): WayOut[] {
  const id = `adapter-${supply.id}`.slice(0, 64);
  const volts = Math.min(...servos.map(({ draw }) => draw.atVolts));
  const isBoard = ({ to }: Run) => to.kind === "board";
  const runs = project.runs
    .filter((run) => run.from.kind === "supply" && run.from.id === supply.id && !isBoard(run))
    .map((run): Run => ({ ...run, from: { kind: "supply", id } }));
  if (runs.length === 0 || project.supplies.some((one) => one.id === id)) return [];
  return [
    {
      words: `An adapter of ${volts} V and ${amps(limitForA(askedA) / 1000)} instead`,
      wiring: {
        supplies: [
          { id, label: `${volts} V for motors`, limitMa: limitForA(askedA), gives: { kind: "adapter", volts } },
        ],
        runs,
      },
    },
  ];
}
