import type { KindSchema, ValueOf } from "@core/schema";

/** How far along a move is after a share of its time, both 0…1; it may leave that range on the way, never at the ends. */
export type EasedCurve = (share: number) => number;

/** What a curve asks of a servo: the most it is faster than its mean speed, and its largest acceleration in ways per time squared. */
export interface Demand {
  readonly peakRate: number;
  /** Infinite where a curve begins or ends with a jump of speed. */
  readonly peakAcceleration: number;
}

/** All that there is to a kind of easing, but its fields on the screen. */
export interface EasingKind<Schema extends KindSchema = KindSchema, Easing = ValueOf<Schema>> {
  readonly schema: Schema;
  readonly name: string;
  begin(): Easing;
  /** Its curve, for shares 0…1. */
  curve(easing: Easing): EasedCurve;
  demand(easing: Easing): Demand;
  /**
   * The same curve as an expression of `s`, in the arithmetic that C, Python and this language write alike, so that code which is handed off rounds as the bench does. Several
   * where it is parted: each holds for `s` below its `until`, the last for all that is left. It may call `hermite`.
   */
  formula(easing: Easing): readonly { readonly until: number | null; readonly is: string }[];
}
