import type { EasedCurve } from "@core/easings";

/** What a routine within asks of the joint: its own track, as far as a piece knows it. */
export interface InnerTrack {
  baseAt(atMs: number, start: number): number;
  valueAt(atMs: number, start: number): number;
}

/** How a piece runs: one move of a step, the same for all its joints, or a routine within. */
export type Course =
  | {
      readonly kind: "move";
      readonly stepId: string;
      readonly curve: EasedCurve;
      /** How much faster than its mean the curve is at most. */
      readonly peakRate: number;
    }
  | {
      /** One joint of a tip that is led: its targets at places that lie evenly on the way, which is run through by the curve. */
      readonly kind: "led";
      readonly stepId: string;
      readonly curve: EasedCurve;
      readonly targets: Float64Array;
    }
  | {
      readonly kind: "nested";
      readonly track: InnerTrack;
      /** One way of the routine within. */
      readonly lengthMs: number;
      readonly isThereAndBack: boolean;
    };

/** A move of one joint. `from` is null while nothing before has said where it stands. */
export interface JointMove {
  readonly stepId: string;
  readonly fromMs: number;
  readonly toMs: number;
  readonly from: number | null;
  readonly to: number;
  readonly curve: EasedCurve;
  readonly peakRate: number;
}

/**
 * The stretches of a joint's time in which the moves have it do something, in the order of time, as columns of numbers: an hour of many joints
 * has a hundred thousand of them, and all are laid out anew after each edit.
 */
export class Pieces {
  readonly begins: number[] = [];
  readonly ends: number[] = [];
  /** Where each comes from; NaN while nothing before has said it. */
  readonly froms: number[] = [];
  /** Where a move goes; NaN for a routine within. */
  readonly tos: number[] = [];
  readonly courses: Course[] = [];
  /** Where the last of them leaves the joint; NaN while they leave it where it stood. */
  at = Number.NaN;

  add(fromMs: number, toMs: number, to: number, course: Course): void {
    this.begins.push(fromMs);
    this.ends.push(toMs);
    this.froms.push(this.at);
    this.tos.push(to);
    this.courses.push(course);
  }

  get length(): number {
    return this.begins.length;
  }

  /** The move at a place; null for a routine within, or past the end. */
  moveAt(at: number): JointMove | null {
    const course = this.courses[at];
    if (course?.kind !== "move") return null;
    const from = this.froms[at] as number;
    return {
      stepId: course.stepId,
      fromMs: this.begins[at] as number,
      toMs: this.ends[at] as number,
      from: Number.isNaN(from) ? null : from,
      to: this.tos[at] as number,
      curve: course.curve,
      peakRate: course.peakRate,
    };
  }
}
