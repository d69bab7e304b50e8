/** One place where an automatic run stood and read. */
export interface SurveySample {
  /** What the servo was really sent. */
  readonly setPoint: number;
  readonly reading: number;
  readonly currentMa: number;
}

/** A reading that does not follow for this many steps is at a stop. */
export const heldSteps = 3;
/** No servo sticks for more steps than this and is still of use. */
const mostSticking = 4;
/** Following by less than this share of what it did before counts as not following. */
const leastShare = 0.4;
/** So many steps are needed to know how it follows. */
export const learnSteps = 5;
/** Standing still it draws little; this much more, twice in a row, is a servo that presses. */
const pressingFactor = 3;
const pressingMa = 50;

/** The places of one way outward, and what they say: does the reading still follow, does the servo press, and where did it stop? */
export class SurveyWay {
  readonly #step: number;
  /** What the servo draws in the middle, at rest. */
  readonly #restMa: number;
  readonly #samples: SurveySample[] = [];

  /** @param step how far apart the places are asked to be, in set points */
  constructor(step: number, restMa: number) {
    this.#step = step;
    this.#restMa = restMa;
  }

  get length(): number {
    return this.#samples.length;
  }

  add(sample: SurveySample): void {
    this.#samples.push(sample);
  }

  /** Whether the reading has not changed at all though the servo was sent far enough: on a coarse board some steps outward are one and the same signal. */
  get isDumb(): boolean {
    const reach = Math.abs((this.#samples.at(-1)?.setPoint ?? 0) - (this.#samples[0]?.setPoint ?? 0));
    const isLong = this.length >= learnSteps + heldSteps && reach >= learnSteps * this.#step;
    return isLong && lineOf(this.#samples).slope === 0;
  }

  /** Whether the last steps moved the reading by much less than the steps before them did. */
  get isHeld(): boolean {
    const way = this.#samples;
    const steps = this.#stepsToBelieve();
    if (way.length < learnSteps + steps) return false;
    const before = way.slice(-(steps + 2 * learnSteps), -steps);
    const last = way.slice(-steps - 1);
    const expected = Math.abs(lineOf(before).slope * ((last.at(-1)?.setPoint ?? 0) - (last[0]?.setPoint ?? 0)));
    const seen = Math.abs((last.at(-1)?.reading ?? 0) - (last[0]?.reading ?? 0));
    return expected > 0 && seen < leastShare * expected;
  }

  /**
   * How many steps must not have moved it before it is held: more for a servo that was seen to stick for some steps and then to go on,
   * and more where a current is read and says that it does not press.
   */
  #stepsToBelieve(): number {
    const way = this.#samples;
    const perStep = Math.abs(lineOf(way).slope * this.#step);
    let [longest, running] = [0, 0];
    // What goes on now is not yet known to be a sticking: only what it came loose from counts.
    for (let at = 1; at < way.length; at += 1) {
      const moved = Math.abs((way[at] as SurveySample).reading - (way[at - 1] as SurveySample).reading);
      if (moved < leastShare * perStep) running += 1;
      else {
        longest = Math.max(longest, running);
        running = 0;
      }
    }
    const saysIdle = (way.at(-1)?.currentMa ?? 0) > 0 && !this.isPressing;
    return heldSteps + Math.min(longest, mostSticking) + (saysIdle ? heldSteps : 0);
  }

  /** Whether it drew much more at the last two places than it does where it follows. */
  get isPressing(): boolean {
    if (this.#samples.length < learnSteps + heldSteps) return false;
    const usualMa = Math.max(this.#restMa, ...this.#samples.slice(1, learnSteps).map((one) => one.currentMa));
    return this.#samples.slice(-2).every((one) => one.currentMa > pressingFactor * usualMa + pressingMa);
  }

  /** Where the line of what still followed meets the reading at which it was held: finer than a step. */
  stop(direction: 1 | -1): number {
    const steps = this.isHeld ? this.#stepsToBelieve() : heldSteps;
    const held = this.#samples.slice(-steps + 1);
    const followed = this.#samples.slice(-(steps + 1 + 2 * learnSteps), -steps - 1);
    const { slope, intercept } = lineOf(followed);
    const level = held.reduce((sum, one) => sum + one.reading, 0) / held.length;
    const met = (level - intercept) / slope;
    const last = this.#samples.at(-1)?.setPoint ?? met;
    const inside = (followed.at(-1) as SurveySample).setPoint;
    return direction > 0 ? Math.max(inside, Math.min(last, met)) : Math.min(inside, Math.max(last, met));
  }
}

/** The line that lies nearest to some places: reading over set point. */
export function lineOf(samples: readonly SurveySample[]): { slope: number; intercept: number } {
  const count = Math.max(samples.length, 1);
  const meanX = samples.reduce((sum, one) => sum + one.setPoint, 0) / count;
  const meanY = samples.reduce((sum, one) => sum + one.reading, 0) / count;
  const spread = samples.reduce((sum, one) => sum + (one.setPoint - meanX) ** 2, 0);
  const shared = samples.reduce((sum, one) => sum + (one.setPoint - meanX) * (one.reading - meanY), 0);
  const slope = spread > 0 ? shared / spread : 0;
  return { slope, intercept: meanY - slope * meanX };
}
