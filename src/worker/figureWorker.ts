import {
  assembleBench,
  carriesG,
  freeJoints,
  loadAt,
  mayHoldNmm,
  type ReachCloud,
  reachCloud,
  Weights,
  worstOf,
} from "@core/figure";
import type { Project } from "@core/project";

/** What is asked of the figure's worker: long looks at all that a figure can do. */
export interface FigureOrder {
  readonly ask: number;
  readonly kind: "reach" | "carry" | "worst";
  readonly project: Pick<Project, "figures" | "rigs" | "joints" | "cards" | "meshes" | "things">;
  /** The tip whose reach is looked at, or which carries. */
  readonly tipId: string | null;
  readonly carriedG: number;
  /** Where the joints stand that do not move it, by place number. */
  readonly homes: readonly number[];
}

export type FigureNews =
  | { readonly ask: number; readonly kind: "cloud"; readonly cloud: ReachCloud | null }
  /** The heaviest that each joint is ever asked to hold, in N·mm by joint id, and where all stand then. */
  | {
      readonly ask: number;
      readonly kind: "worst";
      readonly worst: Readonly<
        Record<string, { readonly torqueNmm: number; readonly targets: Readonly<Record<string, number>> }>
      >;
    };

self.onmessage = ({ data }: MessageEvent<FigureOrder>) => {
  const { ask, kind, project, tipId, carriedG, homes } = data;
  const assembly = assembleBench(project);
  const free = freeJoints(project.joints);
  const tip = project.figures.flatMap(({ tips }) => tips).find(({ id }) => id === tipId) ?? null;
  const weights = new Weights(project, assembly);
  if (kind === "worst") {
    weights.carry(tip ? [loadAt(tip, carriedG)] : []);
    const movers = new Set(assembly.movers);
    const worst = Object.fromEntries(
      project.joints.flatMap((joint, place) => {
        if (!movers.has(place)) return [];
        const { torqueNmm, targets } = worstOf(weights, place, free, homes, movers);
        const named = Object.fromEntries(project.joints.map(({ id }, at) => [id, targets[at] as number]));
        return [[joint.id, { torqueNmm, targets: named }]];
      }),
    );
    self.postMessage({ ask, kind: "worst", worst } satisfies FigureNews);
    return;
  }
  if (!tip) {
    self.postMessage({ ask, kind: "cloud", cloud: null } satisfies FigureNews);
    return;
  }
  const can = mayHoldNmm(project, assembly);
  const { atMm } = tip.place;
  const cloud =
    kind === "reach"
      ? reachCloud(assembly, tip, free, homes, 30_000)
      : reachCloud(assembly, tip, free, homes, 6000, (inverse) =>
          Math.min(10_000, carriesG(weights, inverse.chain.now.targets, { partId: tip.partId, atMm }, can)),
        );
  self.postMessage({ ask, kind: "cloud", cloud } satisfies FigureNews, {
    transfer: [cloud.places.buffer as ArrayBuffer, cloud.worth.buffer as ArrayBuffer],
  });
};
