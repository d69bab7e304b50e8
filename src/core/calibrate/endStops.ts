import { ok, problem, type Result } from "@core/result";

/**
 * Finding one end stop by hand: outward from where the servo surely moves, in coarse steps while it moves; back off at
 * once when it stops, and then halve what is left between the last set point that moved the horn and the first that did not.
 *
 * The search is data: it says what to send next, a person says what the horn did. It has no clock; how long a probe may
 * press on a stop is for the one who drives it to keep (see `longestPressMs`).
 */
export interface StopSearch {
  readonly kind: "searching" | "found";
  /** +1 toward larger set points, −1 toward smaller. */
  readonly way: 1 | -1;
  /** The last set point that still moved the horn: safe to stand at. */
  readonly moved: number;
  /** The first that did not; null until the stop was met. */
  readonly stopped: number | null;
  /** What is being tried now. */
  readonly probe: number;
  /** The end of the outer window; it is never passed. */
  readonly bound: number;
  /** Nearer than this two set points are the same to the servo or the board. */
  readonly resolution: number;
  readonly coarse: number;
  readonly steps: number;
  /** The search ended at the window, where the horn still moved: there is no stop inside it. */
  readonly isAtBound: boolean;
}

export type Seen = "moved" | "stopped" | "hums";

/** A probe presses on a stop no longer than this; then the tool backs off by itself. */
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
  const search: StopSearch = {
    kind: "searching",
    way,
    moved: from,
    stopped: null,
    probe: from,
    bound,
    resolution,
    coarse,
    steps: 0,
    isAtBound: false,
  };
  return ok({ ...search, probe: nextProbe(search) });
}

/** The search after a person said what the horn did at the probe. */
export function tellStopSearch(search: StopSearch, seen: Seen): StopSearch {
  if (search.kind === "found") return search;
  const hasMoved = seen === "moved";
  const next: StopSearch = {
    ...search,
    steps: search.steps + 1,
    moved: hasMoved ? search.probe : search.moved,
    stopped: hasMoved ? search.stopped : search.probe,
  };
  const isAtBound = next.stopped === null && next.moved === next.bound;
  const isClose = next.stopped !== null && Math.abs(next.stopped - next.moved) <= next.resolution;
  // Found: it stands where the horn still moved, never at the stop itself.
  if (isAtBound || isClose) return { ...next, kind: "found", isAtBound, probe: next.moved };
  return { ...next, probe: nextProbe(next) };
}

/** One coarse step outward, not past the window; once the stop was met, half-way to it. */
function nextProbe({ moved, stopped, way, coarse, bound }: StopSearch): number {
  if (stopped !== null) return (moved + stopped) / 2;
  const outward = moved + way * coarse;
  return way * (outward - bound) > 0 ? bound : outward;
}
