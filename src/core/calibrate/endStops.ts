import { ok, problem, type Result } from "@core/result";

/**
 * Finding one end stop by hand. From the centre outward in coarse steps while the horn moves; then the place is halved.
 *
 * That the horn moved in a step does not say that it got there: the last step may have ended against the stop. So when a step does
 * not turn it, the stop lies somewhere in the step *before*, between `safe` and `stand`. Each further question stands half-way and
 * steps to the far end: it moves, and the stop is in the far half; it does not, and it is in the near half.
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
  /** The end of the outer window; it is never passed. */
  readonly bound: number;
  /** Nearer than this two set points are the same to the servo or the board. */
  readonly resolution: number;
  readonly coarse: number;
  readonly steps: number;
  /** The horn never failed to move: there is no stop inside the window. */
  readonly isFree: boolean;
}

export type Seen = "moved" | "stopped" | "hums";

/** A step presses on a stop no longer than this; then the tool backs off by itself. */
export const longestPressMs = 700;

interface StopAsk {
  readonly from: number;
  readonly way: 1 | -1;
  readonly bound: number;
  /** The servo's deadband or the board's step, whichever is wider. */
  readonly resolution: number;
  /** The first steps outward. */
  readonly coarse: number;
}

/** Begins a search. Refused when there is no room between where it begins and the outer window. */
export function beginStopSearch({ from, way, bound, resolution, coarse }: StopAsk): Result<StopSearch> {
  if (way * (bound - from) < resolution) return problem("The servo already stands at the edge of its outer window.");
  const begun = { kind: "outward", way, safe: from, bound, resolution, coarse, steps: 0, isFree: true } as const;
  return ok(stepOut(begun, from));
}

/** The search after a person said what the horn did in the step. */
export function tellStopSearch(search: StopSearch, seen: Seen): StopSearch {
  const { kind, safe, stand, probe, bound } = search;
  if (kind === "found") return search;
  const told = { ...search, steps: search.steps + 1, isFree: search.isFree && seen === "moved" };
  if (kind === "homing") return seen === "moved" ? home(told, stand, probe) : home(told, safe, stand);
  if (seen !== "moved") return home(told, safe, stand);
  // At the window's edge nothing can be tried further out; whether the last step got there is asked by halving it.
  return probe === bound ? home(told, stand, probe) : stepOut({ ...told, safe: stand }, probe);
}

/**
 * Where to stand back to between steps: well short of what is surely free. Nearer than its deadband a servo would not notice that it
 * was called back, and would go on pressing.
 */
export function retreatOf({ way, safe, coarse, resolution }: StopSearch): number {
  return safe - way * Math.max(coarse / 2, 3 * resolution);
}

function stepOut(search: Omit<StopSearch, "stand" | "probe">, stand: number): StopSearch {
  const outward = stand + search.way * search.coarse;
  return { ...search, stand, probe: search.way * (outward - search.bound) > 0 ? search.bound : outward };
}

/** Goes on with the stop known to lie past `safe` and not past `far`. */
function home(search: StopSearch, safe: number, far: number): StopSearch {
  if (Math.abs(far - safe) <= search.resolution) return { ...search, kind: "found", safe, stand: safe, probe: safe };
  return { ...search, kind: "homing", safe, stand: (safe + far) / 2, probe: far };
}
