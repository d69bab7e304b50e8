import type { Result } from "@core/result";
import { type KindSchema, kindTable, namesOf, type UnionOf, unionSchema } from "@core/schema";
import { cue } from "./cue";
import { hold } from "./hold";
import { label } from "./label";
import { move } from "./move";
import { playRoutine } from "./playRoutine";
import type { AtHand, StepKind as Entry, Ground, Laid, Named, Names, Stretching } from "./stepKind";
import { wait } from "./wait";

export { lengthMs, longestStepMs } from "./lengths";
export { freshMove, type Move, moveMsOf, type Pace, type TipPath } from "./move";
export type { Aim, AtHand, Ground, Laid, Names, TipWay } from "./stepKind";

/** Every kind of step, in the order in which they are offered. A new one is a file, and a line here. */
const table = kindTable({ move, hold, wait, routine: playRoutine, label, cue });

export const stepSchema = unionSchema(table);
export type Step = UnionOf<typeof table>;
export type StepKind = Step["kind"];
export type StepOf<Kind extends StepKind> = Extract<Step, { kind: Kind }>;

const entryOf = (kind: StepKind) => table[kind] as unknown as Entry<KindSchema, Step>;

/** What each kind of step is called in a menu, with its article. */
export const stepNames = namesOf(table);

/** A new step of a kind with what is nearest at hand, or a sentence on what is missing. */
export const newStep = (kind: StepKind, id: string, atHand: AtHand): Result<Step> => entryOf(kind).begin(id, atHand);

/** What a step names, by id. */
export const namedBy = (step: Step): Named => entryOf(step.kind).named?.(step) ?? {};

/** What is left of a step when a joint is taken off the bench. */
export const withoutJoint = (step: Step, jointId: string): Step =>
  entryOf(step.kind).withoutJoint?.(step, jointId) ?? step;

/** Lays a step on the time of a score, from a moment on. */
export const layStep = (step: Step, atMs: number, ground: Ground<Step>): Result<Laid> =>
  entryOf(step.kind).lay(step, atMs, ground);

/** A step by name, as it stands in a list. */
export const stepWords = (step: Step, names: Names): string => entryOf(step.kind).words(step, names);

/** The length of a step in words; empty where it has none. */
export const lengthWords = (step: Step): string => entryOf(step.kind).lengthWords?.(step) ?? "";

/** What stands on the ruler where a step lies; null for nothing. */
export const flagOf = (step: Step): string | null => entryOf(step.kind).flag?.(step) ?? null;

/** The same step with so much more time; itself where it has no time of its own. */
export const lengthened = (step: Step, byMs: number): Step => entryOf(step.kind).lengthened?.(step, byMs) ?? step;

/** The same step on a stretched time; null where it would become longer than a step may be. */
export const stretchedStep = (step: Step, time: Stretching): Step | null => {
  const { stretched } = entryOf(step.kind);
  return stretched ? stretched(step, time) : step;
};
