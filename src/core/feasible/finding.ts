import type { Key } from "@core/project";

/** What is wrong at some place of a routine. */
export type FindingKind = "speed" | "acceleration" | "travel" | "jump" | "arrival" | "meeting" | "current";

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

/** One way to mend a finding; see `mendEdit`. */
export type Mend =
  /** Gives a move so much time. */
  | { readonly kind: "moveMs"; readonly stepId: string; readonly moveMs: number }
  /** Lets a move take its time from a mean speed. */
  | { readonly kind: "speed"; readonly stepId: string; readonly degPerS: number }
  | { readonly kind: "soft"; readonly stepId: string; readonly moveMs: number }
  | { readonly kind: "holdMs"; readonly stepId: string; readonly holdMs: number }
  | { readonly kind: "stagger"; readonly stepId: string; readonly staggerMs: number }
  | { readonly kind: "delay"; readonly stepId: string; readonly jointId: string; readonly delayMs: number }
  /** Changes where a pose has a joint. */
  | { readonly kind: "poseTarget"; readonly poseId: string; readonly jointId: string; readonly target: number }
  | { readonly kind: "clip"; readonly clipId: string; readonly stretch: number }
  /** Gives the keys of a lane between two moments so many times the time; what follows in the lane comes later. */
  | {
      readonly kind: "lane";
      readonly jointId: string;
      readonly fromMs: number;
      readonly toMs: number;
      readonly factor: number;
    }
  /** Lets the joint go through the keys of a lane without a corner. */
  | { readonly kind: "laneSoft"; readonly jointId: string }
  /** Draws the keys of a lane in to the travel limits. */
  | { readonly kind: "laneWithin"; readonly jointId: string; readonly low: number; readonly high: number }
  /** Lets a lane begin or end where the moves have the joint, or leave a key in time for the next. */
  | {
      readonly kind: "laneKey";
      readonly jointId: string;
      readonly atMs: number;
      readonly target: number;
      readonly shape: Key["shape"];
    }
  | { readonly kind: "fade"; readonly clipId: string; readonly fadeInMs: number; readonly fadeOutMs: number };

/** What a mend does, for its button. */
export function mendWords(mend: Mend): string {
  switch (mend.kind) {
    case "moveMs":
      return `Give it ${seconds(mend.moveMs)}`;
    case "speed":
      return `Let it go at ${Math.floor(mend.degPerS)} °/s`;
    case "soft":
      return `Start and end softly, in ${seconds(mend.moveMs)}`;
    case "holdMs":
      return `Hold for ${seconds(mend.holdMs)}`;
    case "stagger":
      return `Start one after another, ${Math.round(mend.staggerMs)} ms apart`;
    case "delay":
      return `Let it wait ${seconds(mend.delayMs)}`;
    case "poseTarget":
      return `Make it ${mend.target.toFixed(1)}° in the pose`;
    case "clip":
      return `Stretch the clip to ${(mend.stretch * 100).toFixed(0)} %`;
    case "lane":
      return "Give these keys more time";
    case "laneSoft":
      return "Go through its keys smoothly";
    case "laneWithin":
      return "Draw the keys in to the limits";
    case "laneKey":
      return mend.shape === "line" ? "Add a key, to leave in time" : "Add a key where the moves have it";
    case "fade":
      return `Fade the clip over ${seconds(Math.max(mend.fadeInMs, mend.fadeOutMs))}`;
  }
}

export const seconds = (ms: number): string => `${(ms / 1000).toFixed(2)} s`;
