import { assembleBench, Chain, freeJoints } from "@core/figure";
import { type Lead, type Project, type Source, type TableAxis, tipOf } from "@core/project";
import { jointMapOf } from "@core/rig";

/** A source leads a tip this far to either side of where it is at home, in mm. */
const reachMm = 100;
/** Of what a tip looks at it is taken that it is so far ahead, in mm. */
const aheadMm = 400;

/**
 * A lead that moves a tip along one direction of the table, about where it is while its joints are at home. A stick that is pushed to the right moves it to the
 * right, which the table counts downwards.
 */
export function tipLead(project: Project, source: Source, tipId: string, along: TableAxis, id: string): Lead {
  const homeMm = homeOf(project, tipId)[along === "x" ? 0 : along === "y" ? 1 : 2] ?? 0;
  const toMm = (offMm: number) => Math.round(homeMm + offMm);
  const isAcross = along === "y" && source.origin.kind === "stick" && source.origin.axis === "x";
  const [low, high] = isAcross ? [toMm(reachMm), toMm(-reachMm)] : [toMm(-reachMm), toMm(reachMm)];
  return {
    id,
    sourceId: source.id,
    target: { kind: "tip", tipId, along },
    shapers: [{ kind: "rangeMap", from: source.range, to: { low, high } }],
    isMuted: false,
  };
}

/** Where a tip is, or what it looks at, while all joints are at home. */
function homeOf(project: Project, tipId: string): readonly number[] {
  const tip = tipOf(project, tipId)?.tip;
  if (!tip) return [];
  const chain = new Chain(assembleBench(project), tip, freeJoints(project.joints));
  project.joints.forEach((joint, place) => {
    const card = project.cards.find(({ id }) => id === joint.cardId);
    chain.now.targets[place] = card ? jointMapOf(joint, card).homeTarget : 0;
  });
  chain.stand();
  const far = tip.does === "look" ? aheadMm : 0;
  return [0, 1, 2].map((row) => (chain.tip[9 + row] as number) + far * (chain.tip[3 * row] as number));
}
