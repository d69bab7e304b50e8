import type { Pose } from "@core/project";

/** The targets a share of the way from one pose to another, for the joints that both have; 0 is the one, 1 the other. */
export function blended(from: Pose["targets"], to: Pose["targets"], share: number): Pose["targets"] {
  return Object.fromEntries(
    Object.entries(from).flatMap(([id, a]) => {
      const b = to[id];
      return b === undefined ? [] : [[id, Math.round((a + (b - a) * share) * 1e6) / 1e6]];
    }),
  );
}
