import type { Key, Lane } from "@core/project";

/** A key of a lane is known by its moment: no lane has two at one. */
export interface ChosenKey {
  readonly jointId: string;
  readonly atMs: number;
}

export const isSameKey = (a: ChosenKey, b: ChosenKey): boolean => a.jointId === b.jointId && a.atMs === b.atMs;

/** The keys of a lane, by its joint. */
export interface LaneKeys {
  readonly jointId: string;
  readonly keys: readonly Key[];
}

export interface ShiftedKeys {
  /** All keys of each lane that has a chosen one. */
  readonly lanes: readonly LaneKeys[];
  /** The chosen keys at their new moments. */
  readonly chosen: readonly ChosenKey[];
}

/** The moments of the chosen keys by lane: with thousands of keys chosen each is still asked for once. */
function momentsByLane(chosen: readonly ChosenKey[]): ReadonlyMap<string, ReadonlySet<number>> {
  const moments = new Map<string, Set<number>>();
  for (const { jointId, atMs } of chosen) {
    const own = moments.get(jointId) ?? new Set();
    moments.set(jointId, own.add(atMs));
  }
  return moments;
}

/** The keys of these lanes between two moments, both in, in either order. */
export function keysWithin(
  lanes: readonly Lane[],
  jointIds: ReadonlySet<string>,
  fromMs: number,
  toMs: number,
): readonly ChosenKey[] {
  const [first, last] = fromMs <= toMs ? [fromMs, toMs] : [toMs, fromMs];
  return lanes
    .filter(({ jointId }) => jointIds.has(jointId))
    .flatMap(({ jointId, keys }) =>
      keys.filter(({ atMs }) => atMs >= first && atMs <= last).map(({ atMs }) => ({ jointId, atMs })),
    );
}

/** Those and these, each once, those first. */
export function alsoChosen(those: readonly ChosenKey[], these: readonly ChosenKey[]): readonly ChosenKey[] {
  const known = momentsByLane(those);
  return [...those, ...these.filter(({ jointId, atMs }) => !known.get(jointId)?.has(atMs))];
}

/**
 * Chosen keys at other moments, all by the same time and none before 0, and at other targets. A key that one of them lands on gives way;
 * those that they pass stay where they are. `retarget` gives the new target of a key.
 */
export function shiftedKeys(
  lanes: readonly Lane[],
  chosen: readonly ChosenKey[],
  byMs: number,
  retarget: (jointId: string, target: number) => number,
): ShiftedKeys {
  const picked = momentsByLane(chosen);
  const shiftMs = Math.max(byMs, -Math.min(...chosen.map((key) => key.atMs)));
  const moved: ChosenKey[] = [];
  const changed = lanes.flatMap(({ jointId, keys }): LaneKeys[] => {
    const mine = picked.get(jointId);
    if (!mine) return [];
    const taken = new Set<number>();
    const own = keys
      .filter((key) => mine.has(key.atMs))
      .map((key) => ({ ...key, atMs: key.atMs + shiftMs, target: retarget(jointId, key.target) }));
    for (const key of own) {
      taken.add(key.atMs);
      moved.push({ jointId, atMs: key.atMs });
    }
    const others = keys.filter((key) => !mine.has(key.atMs) && !taken.has(key.atMs));
    return [{ jointId, keys: [...others, ...own].toSorted((a, b) => a.atMs - b.atMs) }];
  });
  return { lanes: changed, chosen: moved };
}

/** The lanes of the chosen keys without them. */
export function keysWithout(lanes: readonly Lane[], chosen: readonly ChosenKey[]): readonly LaneKeys[] {
  const picked = momentsByLane(chosen);
  return lanes.flatMap(({ jointId, keys }) => {
    const mine = picked.get(jointId);
    return mine ? [{ jointId, keys: keys.filter((key) => !mine.has(key.atMs)) }] : [];
  });
}

export type CopiedKey = Key & { readonly jointId: string };

/** The chosen keys, to be pasted elsewhere. */
export function copiedKeys(lanes: readonly Lane[], chosen: readonly ChosenKey[]): readonly CopiedKey[] {
  const picked = momentsByLane(chosen);
  return lanes.flatMap(({ jointId, keys }) =>
    keys.filter((key) => picked.get(jointId)?.has(key.atMs)).map((key) => ({ ...key, jointId })),
  );
}

/** Copied keys put into lanes, the first of them at a moment; what lies at the same moments gives way. */
export function keysWith(lanes: readonly Lane[], copied: readonly CopiedKey[], atMs: number): ShiftedKeys {
  const byMs = atMs - Math.min(...copied.map((key) => key.atMs));
  const chosen = copied.map((key) => ({ jointId: key.jointId, atMs: key.atMs + byMs }));
  const picked = momentsByLane(chosen);
  const changed = [...new Set(copied.map((key) => key.jointId))].map((jointId) => {
    const own = copied
      .filter((key) => key.jointId === jointId)
      .map(({ jointId: _, ...key }) => ({ ...key, atMs: key.atMs + byMs }));
    const before = lanes.find((lane) => lane.jointId === jointId)?.keys ?? [];
    const others = before.filter((key) => !picked.get(jointId)?.has(key.atMs));
    return { jointId, keys: [...others, ...own].toSorted((a, b) => a.atMs - b.atMs) };
  });
  return { lanes: changed, chosen };
}
