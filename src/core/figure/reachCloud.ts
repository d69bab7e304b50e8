import type { Tip } from "@core/project";
import { Chain, type FreeJoint } from "./chain";
import { halton } from "./halton";
import { Inverse } from "./inverse";
import type { Assembly } from "./stand";
import type { Load, Weights } from "./weight";

/** Where a tip can be: the middles of small cubes, three numbers each, with how well it can be moved on from there (0…1), or how much it can carry there (g). */
export interface ReachCloud {
  readonly places: Float32Array;
  readonly worth: Float32Array;
  readonly cubeMm: number;
}

/**
 * Looks at many stances, spread evenly over the limits, and keeps of each small cube the best. What only a few stances reach is there as well, so a cloud is never
 * too small, and it is as coarse as its cubes.
 */
export function reachCloud(
  assembly: Assembly,
  tip: Tip,
  free: readonly FreeJoint[],
  homes: ArrayLike<number>,
  stances: number,
  worthOf: (inverse: Inverse) => number = (inverse) => inverse.ease(),
): ReachCloud {
  const inverse = new Inverse(new Chain(assembly, tip, free));
  const { chain } = inverse;
  for (let joint = 0; joint < homes.length; joint += 1) chain.now.targets[joint] = homes[joint] as number;
  const count = chain.joints.length;
  const stance = new Float64Array(count);
  const spread = (index: number) => {
    for (let at = 0; at < count; at += 1) {
      const { low, high } = chain.joints[at] as FreeJoint;
      stance[at] = low + (high - low) * halton(index, at);
    }
    inverse.take(stance);
  };
  let largestMm = 1;
  for (let index = 1; index <= 200; index += 1) {
    spread(index);
    const t = chain.tip;
    largestMm = Math.max(largestMm, Math.abs(t[9] as number), Math.abs(t[10] as number), Math.abs(t[11] as number));
  }
  const cubeMm = Math.max(4, Math.round(largestMm / 14));
  const best = new Map<string, { readonly place: readonly [number, number, number]; worth: number }>();
  for (let index = 1; index <= (count === 0 ? 1 : stances); index += 1) {
    spread(index);
    const cube = [9, 10, 11].map((row) => Math.round((chain.tip[row] as number) / cubeMm)) as [number, number, number];
    const key = cube.join();
    const worth = worthOf(inverse);
    const known = best.get(key);
    if (known) known.worth = Math.max(known.worth, worth);
    else best.set(key, { place: cube, worth });
  }
  const cubes = [...best.values()];
  return {
    places: Float32Array.from(cubes.flatMap(({ place }) => place.map((value) => value * cubeMm))),
    worth: Float32Array.from(cubes, ({ worth }) => worth),
    cubeMm,
  };
}

/**
 * How much a tip can carry where it stands, in g: until the first joint holds all that it may. `canNmm` says what each joint may hold, by place number, NaN where
 * nobody knows. Torques grow by equal steps with what is carried, so two looks say all.
 */
export function carriesG(
  weights: Weights,
  targets: ArrayLike<number>,
  load: Omit<Load, "massG">,
  canNmm: ArrayLike<number>,
): number {
  weights.carry([]);
  const bare = Float64Array.from(weights.holding(targets));
  weights.carry([{ ...load, massG: 100 }]);
  const laden = weights.holding(targets);
  let most = Number.POSITIVE_INFINITY;
  for (let joint = 0; joint < bare.length; joint += 1) {
    const can = canNmm[joint] as number;
    if (!Number.isFinite(can)) continue;
    const [empty, perG] = [bare[joint] as number, ((laden[joint] as number) - (bare[joint] as number)) / 100];
    if (Math.abs(empty) >= can) return 0;
    if (perG > 1e-9) most = Math.min(most, (can - empty) / perG);
    if (perG < -1e-9) most = Math.min(most, (can + empty) / -perG);
  }
  return most;
}
