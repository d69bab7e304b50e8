import type { Project, ServoCard } from "@core/project";
import type { JointBench } from "@core/rig";

/** What is so at the bench while somebody asks. */
export interface Now {
  /** Its board is on a real wire of this computer. */
  readonly isReal: boolean;
  readonly isAnswering: boolean;
  readonly isHeld: boolean;
}

/** All that is known of a joint that does not do what it should. */
export interface SymptomLook {
  readonly project: Project;
  readonly bench: JointBench;
  readonly now: Now;
}

/** Where a clue is followed: a station, or a part of one. `hold` holds the joint. */
export type CluePlace =
  | "links"
  | "hold"
  | "drive"
  | "position"
  | "board"
  | "sideBySide"
  | "sweep"
  | "wobble"
  | "unit"
  | "stops"
  | "angles"
  | "check"
  | "limits"
  | "neutral"
  | "weight"
  | "chain"
  | "control"
  | "wiring"
  | "course"
  | "routine"
  | "scan"
  | "sheets";

/** A reason for a symptom, and where one gets on with it. */
export interface Clue {
  /** It is so by what Vantel knows; else only a look at the bench tells. */
  readonly isSo: boolean;
  readonly says: string;
  readonly place: CluePlace;
  /** The lead that it is about, where `place` is its chain. */
  readonly leadId?: string;
}

/** Something that goes wrong at a bench, as a person says it. */
export interface Symptom {
  readonly says: string;
  /** Other words that it is looked for by. */
  readonly alike: string;
  /** Which servos can have it; all where that is not said. */
  readonly onlyOf?: (card: ServoCard) => boolean;
  /** The reasons that there can be, in the order in which to look. */
  readonly clues: (look: SymptomLook) => readonly Clue[];
}

export const so = (place: CluePlace, says: string): Clue => ({ isSo: true, says, place });
export const maybe = (place: CluePlace, says: string): Clue => ({ isSo: false, says, place });

/** A clue about the chain of a lead. */
export const inChain = (leadId: string, isSo: boolean, says: string): Clue => ({ isSo, says, place: "chain", leadId });

export const hasAngles = (card: ServoCard): boolean => card.kind !== "continuous";
export const spinsOn = (card: ServoCard): boolean => card.kind === "continuous";
