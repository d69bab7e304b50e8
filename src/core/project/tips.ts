import type { Figure, Part, Tip } from "./figure";
import type { Project } from "./project";

/** A tip with the figure that it is on; undefined where it is not on the bench. */
export function tipOf(
  { figures }: Pick<Project, "figures">,
  tipId: string,
): { readonly tip: Tip; readonly figure: Figure } | undefined {
  for (const figure of figures) {
    const tip = figure.tips.find(({ id }) => id === tipId);
    if (tip) return { tip, figure };
  }
  return undefined;
}

/** The joints that move a tip, by id: those of all parts between it and the table, through whatever they follow. */
export function jointsMovingTip(project: Pick<Project, "figures">, tipId: string): readonly string[] {
  const found = tipOf(project, tipId);
  if (!found) return [];
  const parts = new Map(found.figure.parts.map((part) => [part.id, part]));
  const moving = new Set<string>();
  let part = parts.get(found.tip.partId);
  // No way is longer than there are parts, whatever a half-made figure says.
  for (let hops = 0; part && hops <= parts.size; hops += 1) {
    const jointId = jointBehind(part, parts);
    if (jointId !== null) moving.add(jointId);
    part = part.parentId === null ? undefined : parts.get(part.parentId);
  }
  return [...moving];
}

function jointBehind(part: Part, parts: ReadonlyMap<string, Part>): string | null {
  let at: Part | undefined = part;
  for (let hops = 0; at && hops <= parts.size; hops += 1) {
    const { motion }: Part = at;
    if (motion.kind === "fixed") return null;
    if (motion.by.kind === "joint") return motion.by.jointId;
    at = parts.get(motion.by.partId);
  }
  return null;
}
