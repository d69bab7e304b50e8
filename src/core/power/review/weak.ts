import type { State } from "./look";
import { suppliesIn } from "./look";
import { amps, type Concern, few, limitForA, type Rule } from "./rule";

const words: Readonly<Record<State, string>> = {
  standing: "even while its servos stand",
  moving: "while its servos turn",
  starting: "when all of its servos start together",
};

/** Supplies and regulators that are asked for more than they can give. */
export const weak: Rule = {
  name: "Strong enough",
  why: "A servo that begins to turn draws as much as one that is held fast. Beyond its limit a supply's voltage breaks down: boards start anew and servos go limp.",
  find: (look) =>
    suppliesIn(look).flatMap(({ supply, at }): Concern[] => {
      // What is no motor supply at all is said elsewhere.
      if (supply.gives.kind === "port" || supply.gives.kind === "pin" || !look.net.isFed[at]) return [];
      const askedA = (state: State) => look.all(state, 1, false).givenA[at] as number;
      const state = (["standing", "moving", "starting"] as const).find((one) => askedA(one) * 1000 > supply.limitMa);
      if (!state) return [];
      const needA = askedA("starting");
      const { volts } = look.all(state, 1);
      const resets = look.project.boards.filter(({ id, power }) => {
        const place = look.net.places.findIndex((one) => one.kind === "board" && one.id === id);
        return look.net.isFed[place] && (volts[place] as number) < (power?.lowestVolts ?? 4.2);
      });
      const reset =
        resets.length > 0
          ? ` ${few(resets.map(({ label }) => label))} may start anew, and ${resets.length > 1 ? "their" : "its"} servos go limp.`
          : "";
      return [
        {
          weight: "fails",
          about: { kind: "supply", id: supply.id },
          sentence: `${supply.label} is asked for ${amps(askedA(state))} ${words[state]}, and can give ${amps(supply.limitMa / 1000)}.${reset}`,
          advice:
            state === "starting" ? "Or start them one after another: Check at Routine offers it, step by step." : null,
          waysOut: [
            {
              words: `Take one that gives ${amps(limitForA(needA) / 1000)}`,
              wiring: { supplies: [{ ...supply, limitMa: limitForA(needA) }] },
            },
          ],
        },
      ];
    }),
};
