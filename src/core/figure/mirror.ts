import type { Body, Part, Place, Tip } from "@core/project";
import { mirroredShape, type Vector } from "@core/shapes";
import { frameOfPlace, frameSize, placeOfFrame } from "./frames";

/** The same place on the other side of the x-z plane: left becomes right. */
export function mirroredPlace(place: Place): Place {
  const frame = new Float64Array(frameSize);
  frameOfPlace(place, frame);
  // Turned over twice, before and behind: row 1 and column 1 change sign, so their crossing does not.
  for (const at of [1, 3, 5, 7, 10]) frame[at] = -(frame[at] as number);
  const { atMm, turnDeg } = placeOfFrame(frame);
  return { atMm: tidy(atMm), turnDeg: tidy(turnDeg) };
}

/** Without the last digits that turning to and fro leaves behind. */
const tidy = (vector: Vector): Vector => vector.map((value) => Math.round(value * 1e9) / 1e9 + 0) as unknown as Vector;

const mirroredBody = (body: Body): Body => ({
  ...body,
  place: mirroredPlace(body.place),
  shape: mirroredShape(body.shape),
});

/** The other side's ending of a name: Left leg, Right leg. */
function mirroredLabel(label: string): string {
  if (/left/i.test(label)) return label.replace(/left/i, (word) => (word[0] === "L" ? "Right" : "right"));
  if (/right/i.test(label)) return label.replace(/right/i, (word) => (word[0] === "R" ? "Left" : "left"));
  return `${label}, other side`.slice(0, 80);
}

/**
 * A part and all that hangs on it, on the other side. What turned by a joint waits for a joint of its own, but what followed another part follows its copy. An
 * axis is turned over such that equal targets move both sides alike: up stays up, and outwards stays outwards.
 */
export function mirroredParts(
  parts: readonly Part[],
  tips: readonly Tip[],
  partId: string,
  newId: () => string,
): { readonly parts: readonly Part[]; readonly tips: readonly Tip[] } {
  const ids = new Map<string, string>();
  const isBelow = (part: Part): boolean => part.id === partId || (part.parentId !== null && ids.has(part.parentId));
  // Parents may be listed behind what hangs on them.
  for (let found = true; found; ) {
    found = false;
    for (const part of parts)
      if (!ids.has(part.id) && isBelow(part)) {
        ids.set(part.id, newId());
        found = true;
      }
  }
  const copied = parts.flatMap((part): Part[] => {
    const id = ids.get(part.id);
    if (id === undefined) return [];
    return [
      {
        ...part,
        id,
        label: mirroredLabel(part.label),
        parentId: part.parentId === null ? null : (ids.get(part.parentId) ?? part.parentId),
        place: mirroredPlace(part.place),
        motion: mirroredMotion(part.motion, ids),
        bodies: part.bodies.map(mirroredBody),
        centreMm: [part.centreMm[0], -part.centreMm[1], part.centreMm[2]],
        inertiaGMm2: part.inertiaGMm2 && mirroredInertia(part.inertiaGMm2),
      },
    ];
  });
  const copiedTips = tips.flatMap((tip): Tip[] => {
    const id = ids.get(tip.partId);
    return id === undefined
      ? []
      : [{ ...tip, id: newId(), label: mirroredLabel(tip.label), partId: id, place: mirroredPlace(tip.place) }];
  });
  return { parts: copied, tips: copiedTips };
}

const mirroredInertia = ([xx, xy, xz, yy, yz, zz]: NonNullable<Part["inertiaGMm2"]>): NonNullable<
  Part["inertiaGMm2"]
> => [xx, -xy, xz, yy, -yz, zz];

function mirroredMotion(motion: Part["motion"], ids: ReadonlyMap<string, string>): Part["motion"] {
  if (motion.kind === "fixed") return motion;
  const [x, y, z] = motion.axis;
  // A turn's axis is turned over otherwise than a way: a mirrored right hand is a left one.
  const axis: Vector = motion.kind === "turn" ? [-x + 0, y, -z + 0] : [x, -y + 0, z];
  const { by } = motion;
  if (by.kind === "joint") return { ...motion, axis, by: { ...by, jointId: null } };
  return { ...motion, axis, by: { ...by, partId: ids.get(by.partId) ?? by.partId } };
}
