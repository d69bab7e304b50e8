import type { Figure, Motion } from "@core/project";

/** The figure with other ids for those parts and tips whose ids are taken; all that names them within it follows. Itself where none is. */
export function withFreshIds(figure: Figure, taken: ReadonlySet<string>, newId: () => string): Figure {
  const fresh = new Map(
    [...figure.parts, ...figure.tips].flatMap(({ id }) => (taken.has(id) ? [[id, newId()] as const] : [])),
  );
  if (fresh.size === 0) return figure;
  const idOf = (id: string) => fresh.get(id) ?? id;
  const motionOf = (motion: Motion): Motion =>
    motion.kind === "fixed" || motion.by.kind === "joint"
      ? motion
      : { ...motion, by: { ...motion.by, partId: idOf(motion.by.partId) } };
  return {
    ...figure,
    parts: figure.parts.map((part) => ({
      ...part,
      id: idOf(part.id),
      parentId: part.parentId === null ? null : idOf(part.parentId),
      motion: motionOf(part.motion),
    })),
    tips: figure.tips.map((tip) => ({ ...tip, id: idOf(tip.id), partId: idOf(tip.partId) })),
    springs: figure.springs.map((one) => ({ ...one, fromPartId: idOf(one.fromPartId), toPartId: idOf(one.toPartId) })),
    mayTouch: figure.mayTouch.map(([a, b]) => [idOf(a), idOf(b)]),
  };
}
