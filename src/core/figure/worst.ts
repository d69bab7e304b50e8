import type { FreeJoint } from "./chain";
import type { Weights } from "./weight";

/** The heaviest that a joint is ever asked to hold. */
export interface Worst {
  readonly torqueNmm: number;
  /** Where all stand then, by place number. */
  readonly targets: Float64Array;
}

/**
 * The stance within the limits in which one joint has most to hold. Each joint in turn is taken to the best of some places between its stops, until none helps
 * any more, from several beginnings: of a chain of links the heaviest stance is found so, as in each angle alone the torque is a sine.
 */
export function worstOf(
  weights: Weights,
  joint: number,
  free: readonly FreeJoint[],
  homes: ArrayLike<number>,
  movers: ReadonlySet<number>,
): Worst {
  const moving = free.filter(({ place }) => movers.has(place));
  const heldAt = (targets: Float64Array) => Math.abs(weights.holding(targets)[joint] as number);
  let best: Worst = { torqueNmm: -1, targets: Float64Array.from(homes) };
  for (const share of [0.5, 0, 1, 0.25, 0.75]) {
    const targets = Float64Array.from(homes);
    for (const { place, low, high } of moving) targets[place] = low + share * (high - low);
    let most = heldAt(targets);
    for (let round = 0; round < 12; round += 1) {
      const before = most;
      for (const { place, low, high } of moving) {
        let kept = targets[place] as number;
        for (let step = 0; step <= 24; step += 1) {
          targets[place] = low + (step / 24) * (high - low);
          const held = heldAt(targets);
          if (held > most + 1e-9) [most, kept] = [held, targets[place] as number];
        }
        targets[place] = kept;
      }
      if (most <= before + 1e-9) break;
    }
    if (most > best.torqueNmm) best = { torqueNmm: most, targets };
  }
  return best;
}
