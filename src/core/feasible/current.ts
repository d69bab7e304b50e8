import { courseOf, jointsFedBy, netOf } from "@core/power";
import { byId, type Project, type Supply } from "@core/project";
import type { Score } from "@core/routine";

/** What is asked of a supply over the time of a routine, in mA, whether it can give that or not. */
export interface SupplyCurrent {
  readonly supply: Supply;
  /** The joints that it feeds, by id. */
  readonly fed: ReadonlySet<string>;
  readonly stepMs: number;
  readonly totalMa: Float32Array;
  readonly highestMa: number;
}

/** `asked` has what joints are asked for, sampled every `stepMs` of `sampling.ts`. The very sums of the station Power (`core/power`): through wires, boards and regulators, with what the figures weigh. */
export function supplyCurrents(
  project: Project,
  score: Score,
  speed: number,
  asked: ReadonlyMap<number, Float32Array>,
): SupplyCurrent[] {
  if (project.supplies.length === 0) return [];
  const net = netOf(project);
  const { supplies, stepMs } = courseOf(project, score, { speed, hasLimits: false, asked });
  return supplies.map(({ supplyId, givenMa, most }) => ({
    supply: byId(project.supplies, supplyId),
    fed: new Set(jointsFedBy(net, supplyId)),
    stepMs,
    totalMa: givenMa,
    highestMa: most.value * 1000,
  }));
}
