import type { Range } from "@core/schema";
import { type Shaper, type Stage, type Surroundings, settles, stageOf } from "@core/shapers";

/**
 * A chain of shapers at work. It never lets out what is not a number: without a value to begin with it gives NaN, which
 * means "nothing yet"; afterwards a stage that fails leaves the last good value standing.
 */
export class Chain {
  value = Number.NaN;
  readonly #stages: readonly Stage[];

  constructor(shapers: readonly Shaper[], around: Surroundings) {
    this.#stages = shapers.map((shaper) => stageOf(shaper, around));
  }

  /** Lets time pass with this value coming in. */
  step(value: number, dtMs: number): number {
    if (!Number.isFinite(value)) return this.value;
    let shaped = value;
    for (let at = 0; at < this.#stages.length; at += 1) shaped = (this.#stages[at] as Stage)(shaped, dtMs);
    if (Number.isFinite(shaped)) this.value = shaped;
    return this.value;
  }
}

/** A chain at rest, for drawing: where each value comes out when it has stood there for long. Stages begin anew for each value. */
export function settledShape(shapers: readonly Shaper[], around: Surroundings): (value: number) => number {
  return (value) => {
    const chain = new Chain(shapers.filter(settles), around);
    chain.step(value, 0);
    return chain.step(value, 3_600_000);
  };
}

/** What may come out of a chain over the range of its source, at so many places and both ends: NaN where nothing does. */
export function outcomesOf(shapers: readonly Shaper[], { low, high }: Range, around: Surroundings, places: number) {
  const values = Array.from({ length: places + 1 }, (_, at) => low + ((high - low) * at) / places);
  const outs = values.map(settledShape(shapers, around));
  const known = outs.filter(Number.isFinite);
  const least = Math.min(...known, 0);
  return { values, outs, least, most: Math.max(...known, least + 1e-6) };
}
