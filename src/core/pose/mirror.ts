import type { Mirror, Pose, Project } from "@core/project";

type Targets = Pose["targets"];

/** All that the rigs say of left and right. */
export const mirrorOf = (project: Project): readonly Mirror[] => project.rigs.flatMap((rig) => rig.mirror);

/** The joints of some targets that no rig says anything about: they stay as they are in a mirrored pose. */
export const unmirrored = (targets: Targets, mirror: readonly Mirror[]): readonly string[] => {
  const known = new Set(mirror.flatMap((one) => (one.kind === "pair" ? [one.leftId, one.rightId] : [one.jointId])));
  return Object.keys(targets).filter((id) => !known.has(id));
};

/**
 * Targets with left and right exchanged: pairs change places, what stands in the middle changes sign, and the rest stays. Done twice, it
 * changes nothing.
 */
export function mirrored(targets: Targets, mirror: readonly Mirror[]): Targets {
  const turned: Record<string, number> = { ...targets };
  for (const one of mirror) {
    if (one.kind === "middle") {
      const target = targets[one.jointId];
      if (target !== undefined) turned[one.jointId] = target === 0 ? 0 : -target;
      continue;
    }
    const { leftId, rightId, sign } = one;
    for (const [from, to] of [
      [leftId, rightId],
      [rightId, leftId],
    ] as const) {
      const target = targets[from];
      if (target === undefined) delete turned[to];
      else turned[to] = target === 0 ? 0 : sign * target;
    }
  }
  return turned;
}
