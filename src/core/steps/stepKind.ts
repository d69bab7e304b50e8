import type { Easing } from "@core/easings";
import type { Result } from "@core/result";
import type { KindSchema, Range, ValueOf } from "@core/schema";

/** What there is on the bench for a new step. */
export interface AtHand {
  readonly poses: readonly { readonly id: string }[];
  readonly sources: readonly { readonly id: string; readonly range: Range }[];
  /** The routines that it could play. */
  readonly routines: readonly { readonly id: string }[];
}

/** What a step names, by id. */
export interface Named {
  readonly poseId?: string;
  readonly routineId?: string;
  readonly sourceId?: string;
  readonly jointIds?: readonly string[];
}

/** What those are called; “?” where one is gone. */
export interface Names {
  readonly pose: (id: string) => string;
  readonly routine: (id: string) => string;
  readonly source: (id: string) => string;
}

/** What a pose asks of one joint; the joint by its place in the rack. */
export interface Aim {
  readonly jointId: string;
  readonly joint: number;
  readonly target: number;
}

/** The way of a tip: straight, or round through a third place; and what of its direction it keeps to. */
export interface TipWay {
  readonly tipId: string;
  readonly viaMm: readonly [number, number, number] | null;
  readonly pointing?: "tilt" | "direction" | undefined;
}

/** Where a step comes to lie on time; `arriveMs` is when the last of its joints should have arrived, the end for a step that is no move. */
export interface Laid {
  readonly arriveMs: number;
  readonly toMs: number;
}

/** The score that a step is laid into. */
export interface Ground<Step> {
  /** What a pose asks, in the order of the rack. */
  aimsOf(poseId: string): readonly Aim[];
  /** Where a joint has been left by the steps so far; home where none said. */
  standsAt(joint: number): number;
  /** For one step: has a joint go where it aims, between two moments. */
  mover(stepId: string, easing: Easing): (aim: Aim, fromMs: number, toMs: number) => void;
  /** For one step: leads a tip along a way to where these aims have it, in a time that is told how long the way is in mm. Gives when it arrives. */
  along(
    stepId: string,
    easing: Easing,
    path: TipWay,
    aims: readonly Aim[],
    fromMs: number,
    timeOf: (wayMm: number) => number,
  ): number;
  /** Time stands still there until what the step waits for. */
  halt(atMs: number, step: Step): void;
  /** Plays another routine so many times; gives when that ends. */
  nest(routineId: string, times: number, atMs: number): Result<number>;
}

/** How the time of a routine is stretched. */
export interface Stretching {
  /** From the beginning of the step to where it arrives: so many times as long. */
  readonly factor: number;
  /** How long it then stands, in ms. */
  readonly restMs: number;
}

/** All that there is to a kind of step, but its fields on the screen. */
export interface StepKind<Schema extends KindSchema = KindSchema, Step = ValueOf<Schema>> {
  readonly schema: Schema;
  /** What is added, with its article. */
  readonly name: string;
  /** A new one, or a sentence on what is missing for it. */
  begin(id: string, atHand: AtHand): Result<Step>;
  named?(step: Step): Named;
  /** What is left of it when a joint is taken off the bench. */
  withoutJoint?(step: Step, jointId: string): Step;
  /** Lays it on the time of a score, from a moment on. */
  lay(step: Step, atMs: number, ground: Ground<Step>): Result<Laid>;
  /** By name, as it stands in a list. */
  words(step: Step, names: Names): string;
  /** Its length, in words; nothing where it has none. */
  lengthWords?(step: Step): string;
  /** What stands on the ruler where it lies. */
  flag?(step: Step): string;
  /** The same with so much more time; itself where it has no time of its own. */
  lengthened?(step: Step, byMs: number): Step;
  /** The same on a stretched time; null where it would become longer than a step may be. */
  stretched?(step: Step, time: Stretching): Step | null;
}
