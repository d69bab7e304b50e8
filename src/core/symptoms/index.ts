import type { ServoCard } from "@core/project";
import { creeps } from "./creeps";
import { fights } from "./fights";
import { grinds } from "./grinds";
import { half } from "./half";
import { jerks } from "./jerks";
import { late } from "./late";
import { numbers } from "./numbers";
import { off } from "./off";
import { restarts } from "./restarts";
import { still } from "./still";
import type { Clue, Symptom, SymptomLook } from "./symptom";
import { trembles } from "./trembles";
import { wrongWay } from "./wrongWay";

/** All that can go wrong with a servo, as people say it. A new one is a file, and a line here. */
export const symptoms = {
  still,
  half,
  off,
  grinds,
  wrongWay,
  trembles,
  creeps,
  jerks,
  late,
  restarts,
  fights,
  numbers,
} as const satisfies Readonly<Record<string, Symptom>>;

export type SymptomId = keyof typeof symptoms;
const ids = Object.keys(symptoms) as SymptomId[];

/** The symptoms that such a servo can have, in the order in which they are offered. */
export const symptomsOf = (card: ServoCard): readonly SymptomId[] =>
  ids.filter((id) => (symptoms[id] as Symptom).onlyOf?.(card) ?? true);

/** The reasons for a symptom: first what is so by what Vantel knows, then what only a look at the bench tells. */
export function cluesOf(id: SymptomId, look: SymptomLook): readonly Clue[] {
  const clues = symptoms[id].clues(look);
  return [...clues.filter(({ isSo }) => isSo), ...clues.filter(({ isSo }) => !isSo)];
}

export type { Clue, CluePlace, Now, Symptom, SymptomLook } from "./symptom";
