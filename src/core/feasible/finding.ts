import type { Mend } from "./mend";

/** What is known of every finding of a kind. */
interface FindingTraits {
  /** More time for what happens there makes it well. */
  readonly isTooFast: boolean;
  /** What mends the worst of them in a step mends the others. */
  readonly isShared: boolean;
}

/** What can be wrong at some place of a routine. */
export const findingTraits = {
  speed: { isTooFast: true, isShared: true },
  acceleration: { isTooFast: true, isShared: true },
  jump: { isTooFast: true, isShared: false },
  travel: { isTooFast: false, isShared: false },
  arrival: { isTooFast: false, isShared: false },
  meeting: { isTooFast: false, isShared: false },
  torque: { isTooFast: false, isShared: false },
  way: { isTooFast: false, isShared: false },
  current: { isTooFast: false, isShared: false },
} as const satisfies Readonly<Record<string, FindingTraits>>;

export type FindingKind = keyof typeof findingTraits;

/** Something that the servos cannot do, or should not, where it happens, with ways to mend it. Plain data: it crosses from a worker. */
export interface Finding {
  readonly kind: FindingKind;
  /** The joint it is about; null where it is about many. */
  readonly jointId: string | null;
  /** The step in which it happens; null between and after them. */
  readonly stepId: string | null;
  readonly fromMs: number;
  readonly toMs: number;
  /** What is asked, and what is possible, in the unit that the sentence names. */
  readonly asked: number;
  readonly possible: number;
  readonly sentence: string;
  readonly mends: readonly Mend[];
}
