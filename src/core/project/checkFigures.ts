import { problem } from "@core/result";
import type { Figure, Part } from "./figure";
import { withoutLostFigures } from "./lostFigures";
import type { Project } from "./project";

/** Every two of them may meet: more could not be looked at while a hand drags. */
const mostBodies = 1200;

/** What the schema alone cannot say of figures: all that they name is there, one stands for each rig, and nothing hangs on or follows itself. */
export function checkFigures(project: Project) {
  if (withoutLostFigures(project) !== project)
    return problem("figures: something that one of them names is not there.");
  const bodies = project.figures.reduce(
    (sum, { parts }) => sum + parts.reduce((own, part) => own + part.bodies.length, 0),
    0,
  );
  if (bodies > mostBodies)
    return problem(`figures: they are made of ${bodies} bodies; a bench has room for ${mostBodies}.`);
  const rigs = new Set<string>();
  for (const [index, figure] of project.figures.entries()) {
    const where = `figures → ${index} (${figure.label})`;
    if (rigs.has(figure.rigId)) return problem(`${where}: its rig has another figure already.`);
    rigs.add(figure.rigId);
    const ring = ringOf(figure);
    if (ring) return problem(`${where}: ${ring.label} hangs on itself, or follows itself.`);
  }
  return null;
}

/** A part that hangs on itself through others, or whose way is made of its own; null where there is none. */
function ringOf({ parts }: Figure): Part | null {
  const byIds = new Map(parts.map((part) => [part.id, part]));
  const nextBy = [
    (part: Part) => part.parentId,
    ({ motion }: Part) => (motion.kind !== "fixed" && motion.by.kind !== "joint" ? motion.by.partId : null),
  ];
  for (const next of nextBy)
    for (const part of parts) {
      let at: Part | undefined = part;
      for (let hops = 0; at; hops += 1) {
        if (hops > parts.length) return part;
        const id: string | null = next(at);
        at = id === null ? undefined : byIds.get(id);
      }
    }
  return null;
}
