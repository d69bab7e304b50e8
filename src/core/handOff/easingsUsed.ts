import { demandOf, type Easing, formulaOf } from "@core/easings";
import type { Machine } from "./machine";

/** An easing that handed-off routines use, under its name. */
export interface UsedEasing {
  readonly easing: Easing;
  readonly name: string;
  readonly peakRate: number;
  readonly formula: ReturnType<typeof formulaOf>;
}

const keyOf = (easing: Easing) => JSON.stringify(easing);
const words: Readonly<Record<Easing["kind"], string>> = {
  leastJerk: "least_jerk",
  both: "soft_both_ends",
  in: "soft_start",
  out: "soft_end",
  even: "even",
  overshoot: "overshoot",
  drawn: "drawn",
};

/** The easings of all moves, each once, in the order in which they are met. The least jerky comes first: with it joints are brought to a beginning. */
export function easingsUsed({ routines }: Machine): readonly UsedEasing[] {
  const found = new Map<string, Easing>([[keyOf({ kind: "leastJerk" }), { kind: "leastJerk" }]]);
  for (const { steps } of routines)
    for (const step of steps) if (step.kind === "move") found.set(keyOf(step.easing), step.easing);
  const counts = new Map<string, number>();
  return [...found.values()].map((easing) => {
    const before = counts.get(easing.kind) ?? 0;
    counts.set(easing.kind, before + 1);
    const name = before === 0 ? words[easing.kind] : `${words[easing.kind]}_${before + 1}`;
    return { easing, name, peakRate: demandOf(easing).peakRate, formula: formulaOf(easing) };
  });
}

/** The place of an easing among those that are used. */
export const placeOfEasing = (used: readonly UsedEasing[], easing: Easing): number =>
  used.findIndex((one) => keyOf(one.easing) === keyOf(easing));
