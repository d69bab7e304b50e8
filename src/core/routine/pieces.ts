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
  #begins: Float64Array;
  #ends: Float64Array;
  #froms: Float64Array;
  #tos: Float64Array;
  readonly #courses: Course[] = [];
  /** Where the last of them leaves the joint; NaN while they leave it where it stood. */
  at = Number.NaN;

  /** @param room for so many there is room from the beginning */
  constructor(room: number) {
    this.#begins = new Float64Array(room);
    this.#ends = new Float64Array(room);
    this.#froms = new Float64Array(room);
    this.#tos = new Float64Array(room);
  }

  add(fromMs: number, toMs: number, to: number, course: Course): void {
    const place = this.#courses.length;
    if (place === this.#begins.length) this.#makeRoom();
    this.#begins[place] = fromMs;
    this.#ends[place] = toMs;
    this.#froms[place] = this.at;
    this.#tos[place] = to;
    this.#courses.push(course);
  }

  /** What was added so far. */
  get columns(): Columns {
    const { length } = this.#courses;
    return {
      begins: this.#begins.subarray(0, length),
      ends: this.#ends.subarray(0, length),
      froms: this.#froms.subarray(0, length),
      tos: this.#tos.subarray(0, length),
      courses: this.#courses,
    };
  }

  #makeRoom(): void {
    const wider = (column: Float64Array) => {
      const next = new Float64Array(2 * column.length + 1);
      next.set(column);
      return next;
    };
    this.#begins = wider(this.#begins);
    this.#ends = wider(this.#ends);
    this.#froms = wider(this.#froms);
    this.#tos = wider(this.#tos);
  }
}

/** The pieces of each joint that has some, by its place in the project. */
export class LaidPieces {
  readonly #all: Pieces[] = [];
  /** A step gives a joint one piece at most. */
  readonly #steps: number;

  constructor(steps: number) {
    this.#steps = steps;
  }

  /** Those of a joint, to be added to. */
  to(joint: number): Pieces {
    this.#all[joint] ??= new Pieces(this.#steps);
    return this.#all[joint];
  }

  /** Where the moves so far leave a joint; NaN while they leave it where it stood. */
  leaves(joint: number): number {
    return this.#all[joint]?.at ?? Number.NaN;
  }
}

/** One row for each piece. */
export interface Columns {
  readonly begins: Float64Array;
  readonly ends: Float64Array;
  /** Where each comes from; NaN while nothing before has said it. */
  readonly froms: Float64Array;
  /** Where a move goes; NaN for a routine within. */
  readonly tos: Float64Array;
  readonly courses: readonly Course[];
}

/** The move in a row; null for a routine within, or past the end. */
export function moveAt({ begins, ends, froms, tos, courses }: Columns, row: number): JointMove | null {
  const course = courses[row];
  if (course?.kind !== "move") return null;
  const from = froms[row] as number;
  return {
    stepId: course.stepId,
    fromMs: begins[row] as number,
    toMs: ends[row] as number,
    from: Number.isNaN(from) ? null : from,
    to: tos[row] as number,
    curve: course.curve,
    peakRate: course.peakRate,
  };
}
