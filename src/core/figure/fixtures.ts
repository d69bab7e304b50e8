import { type Figure, here, type Part } from "@core/project";
import type { Vector } from "@core/shapes";
import { assemble } from "./stand";

/** For tests of figures only: small machines whose sums can be worked out on paper. */

/** A part that turns by a joint called `j-` and its own id. */
export function turning(
  id: string,
  parentId: string | null,
  atMm: Vector,
  axis: Vector,
  more: Partial<Part> = {},
): Part {
  return {
    id,
    label: id,
    parentId,
    place: { ...here, atMm },
    motion: { kind: "turn", axis, by: { kind: "joint", jointId: `j-${id}`, ratio: 1, offset: 0 } },
    bodies: [],
    massG: 0,
    centreMm: [0, 0, 0],
    inertiaGMm2: null,
    ...more,
  };
}

export const figureOf = (parts: readonly Part[], more: Partial<Figure> = {}): Figure => ({
  id: "figure",
  label: "Figure",
  rigId: "rig",
  place: here,
  parts,
  tips: [],
  springs: [],
  mayTouch: [],
  useShare: 0.5,
  ...more,
});

/** The assembly of one figure, with its joints in the order of its parts. */
export const assembled = (figure: Figure) =>
  assemble(
    [figure],
    figure.parts.map(({ id }) => `j-${id}`),
  );

/** Numbers that look random and are the same each time. */
export function seeded(seed: number): (low: number, high: number) => number {
  let state = seed;
  return (low, high) => {
    state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0;
    return low + ((high - low) * state) / 2 ** 32;
  };
}

const axes: readonly Vector[] = [
  [0, 0, 1],
  [0, 1, 0],
  [0, 1, 0],
  [1, 0, 0],
  [0, 1, 0],
  [1, 0, 0],
  [0, 0, 1],
];

/** An arm of so many joints, with lengths of its own: it turns, lifts, bends, and then rolls and bends its hand. */
export function anyArm(joints: number, random: (low: number, high: number) => number): Figure {
  const parts = axes
    .slice(0, joints)
    .map((axis, at) => turning(`${at}`, at === 0 ? null : `${at - 1}`, [0, 0, at === 0 ? 40 : random(60, 120)], axis));
  const hand = {
    id: "hand",
    label: "Hand",
    partId: `${joints - 1}`,
    place: { atMm: [0, 0, 70], turnDeg: [0, -90, 0] },
  } as const;
  return figureOf(parts, { tips: [{ ...hand, does: "reach" }] });
}
