import { ok, problem, type Result } from "@core/result";

/**
 * Finding one end stop by hand. From the centre outward in coarse steps while the horn moves; then the place is halved.
 *
 * That the horn moved in a step does not say that it got there: the last step may have ended against the stop. So when a step does
 * not turn it, the stop lies somewhere in the step *before*, between `safe` and `stand`. Each further question stands half-way and
 * steps to the far end: it moves, and the stop is in the far half; it does not, and it is in the near half. A step is never shorter than
 * what the servo notices, even if that presses a little further. In the end the stop lies a little past the last place that was still seen
 * to turn: by what an eye cannot see.
 *
 * The search is data: it says where to stand and where to step, a person says what the horn did. It has no clock; how long a step may
 * press on a stop is for the one who drives it to keep (see `longestPressMs`).
 */
export interface StopSearch {
  readonly kind: "outward" | "homing" | "found";
  /** +1 toward larger set points, −1 toward smaller. */
  readonly way: 1 | -1;
  /** Surely short of the stop: where to stand back to, and in the end the result. */
  readonly safe: number;
  /** Where the next step begins, and where it goes. */
  readonly stand: number;
  readonly probe: number;
  /** While it homes in: the stop does not lie past this. */
  readonly far: number;
  /** The end of the outer window; it is never passed. */
  readonly bound: number;
  /** How closely the stop is wanted; never finer than a step of the board. */
  readonly resolution: number;
  /** A step shorter than this the servo may not notice: more than its deadband. */
  readonly leastStep: number;
  /** A turn smaller than this cannot be seen; in set points. */
  readonly unseen: number;
  readonly coarse: number;
  readonly steps: number;
  /** The horn never failed to move: there is no stop inside the window. */
  readonly isFree: boolean;
}

export type Seen = "moved" | "stopped" | "hums";

/** A step presses on a stop no longer than this; then the tool backs off by itself. */
export const longestPressMs = 700;

/** A turn of less than this is not seen by an eye that watches a horn, in degrees. */
const leastSeenDeg = 0.3;

/**
 * How fine a search for a stop can be.
 * @param deadband of the servo, as its card has it, in set points; a guess, so that steps are kept well above it
 * @param boardStep one step of the board, in set points
 * @param perDeg set points per degree, about
 */
export const stopFineness = (deadband: number, boardStep: number, perDeg: number) => ({
  resolution: Math.max(2, boardStep),
  leastStep: Math.max(2.5 * deadband, boardStep, 5),
  unseen: leastSeenDeg * Math.abs(perDeg),
});

interface StopAsk {
  readonly from: number;
  readonly way: 1 | -1;
  readonly bound: number;
  readonly resolution: number;
  readonly leastStep: number;
  readonly unseen: number;
  /** The first steps outward. */
  readonly coarse: number;
}

/** Begins a search. Refused when there is no room between where it begins and the outer window. */
export function beginStopSearch({ from, way, bound, coarse, ...fineness }: StopAsk): Result<StopSearch> {
  if (way * (bound - from) < fineness.leastStep)
    return problem("The servo already stands at the edge of its outer window.");
  const begun = { kind: "outward", way, safe: from, bound, coarse, ...fineness, steps: 0, isFree: true } as const;
  return ok(stepOut(begun, from));
}

/** The search after a person said what the horn did in the step. */
export function tellStopSearch(search: StopSearch, seen: Seen): StopSearch {
  const { kind, safe, stand, probe, far, bound } = search;
  if (kind === "found") return search;
  const told = { ...search, steps: search.steps + 1, isFree: search.isFree && seen === "moved" };
  if (kind === "homing") return seen === "moved" ? home(told, stand, far) : home(told, safe, stand);
  if (seen !== "moved") return home(told, safe, stand);
  // At the window's edge nothing can be tried further out; whether the last step got there is asked by halving it.
  return probe === bound ? home(told, stand, probe) : stepOut({ ...told, safe: stand }, probe);
}

/**
 * Where to stand back to between steps: well short of what is surely free. Nearer than its deadband a servo would not notice that it
 * was called back, and would go on pressing.
 */
export function retreatOf({ way, safe, coarse, leastStep }: StopSearch): number {
  return safe - way * Math.max(coarse / 2, 2 * leastStep);
}

function stepOut(search: Omit<StopSearch, "stand" | "probe" | "far">, stand: number): StopSearch {
  const outward = stand + search.way * search.coarse;
  const probe = search.way * (outward - search.bound) > 0 ? search.bound : outward;
  return { ...search, stand, probe, far: probe };
}

/** Goes on with the stop known to lie past `safe` and not past `far`. */
function home(search: StopSearch, safe: number, far: number): StopSearch {
  const { way, bound, resolution, leastStep, unseen, isFree } = search;
  if (Math.abs(far - safe) <= resolution) {
    const stop = isFree ? far : (safe + far) / 2 + way * unseen;
    const found = way * (stop - bound) > 0 ? bound : stop;
    return { ...search, kind: "found", safe: found, stand: found, probe: found };
  }
  const stand = (safe + far) / 2;
  const noticed = stand + way * leastStep;
  const outer = way * (noticed - far) > 0 ? noticed : far;
  return { ...search, kind: "homing", safe, stand, probe: way * (outer - bound) > 0 ? bound : outer, far };
}
