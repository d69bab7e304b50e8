import type { Result } from "@core/result";
import { finite, type KindSchema, type Range, type ValueOf } from "@core/schema";
import * as z from "zod/mini";

/** What runs through a lead at some place: an amount between two ends, or a switch that is off or on. */
export type Flow =
  | { readonly kind: "amount"; readonly low: number; readonly high: number }
  | { readonly kind: "switch" };

/** Another source, as far as a shaper looks at it. */
export interface OtherSource {
  readonly id: string;
  readonly isSwitch: boolean;
}

/** What a stage may look at beside the value that comes in. */
export interface Surroundings {
  /** The value of another source now, in its own units; NaN until it has one. */
  readonly valueOf: (sourceId: string) => number;
  /** Its range. */
  readonly rangeOf: (sourceId: string) => Range;
}

/** One stage at work. It keeps what it must remember; `dtMs` is the time since it was last called. */
export type Stage = (value: number, dtMs: number) => number;

/** All that there is to a kind of shaper, but its fields on the screen. Units are those of what comes in, unless said otherwise. */
export interface ShaperKind<Schema extends KindSchema = KindSchema, Shaper = ValueOf<Schema>> {
  readonly schema: Schema;
  /** What it is called, at the beginning of a sentence or on a button. */
  readonly name: string;
  /** How it begins where this range comes in; null where it needs another source and there is none that will do. */
  begin(range: Range, others: readonly OtherSource[]): Shaper | null;
  /** The other sources that it listens to. */
  others?(shaper: Shaper): readonly string[];
  /** What leaves it when this comes in, or why it cannot stand here. */
  flow(shaper: Shaper, flow: Flow, others: readonly OtherSource[]): Result<Flow>;
  /** Puts it to work. What comes in is always a number. */
  stage(shaper: Shaper, around: Surroundings): Stage;
  /** What comes out is of a moment, and says nothing once it has settled. */
  readonly isMomentary?: boolean;
}

/** Two ends that may run downward: a reversed map. */
export const endsSchema = z.strictObject({ low: finite, high: finite });
