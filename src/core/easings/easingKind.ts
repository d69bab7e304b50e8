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
}
