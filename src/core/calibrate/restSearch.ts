import { ok, problem, type Result } from "@core/result";

/**
 * Finding where a continuous servo rests, with one answer per set point: it turns, or it rests. First a place of rest is looked for to
 * both sides of where it should be, then the place between rest and turning is halved, above and below. Neutral is the middle.
 *
 * Like the search for a stop it is data: it says what to send next, a person says what they see.
 */
export interface RestSearch {
  readonly kind: "seeking" | "upper" | "lower" | "found";
  /** The set point to send now, and to look at. */
  readonly probe: number;
  readonly begin: number;
  readonly low: number;
  readonly high: number;
  readonly resolution: number;
  readonly steps: number;
  /** The outermost set points known to rest; NaN while none is known. */
  readonly restLow: number;
  readonly restHigh: number;
  /** The innermost set points known to turn on either side; the window's ends while none is known. */
  readonly turnLow: number;
  readonly turnHigh: number;
}

interface RestAsk {
  /** Where it should rest, by its sheet or its last calibration. */
  readonly begin: number;
  /** The window to stay in. */
  readonly low: number;
  readonly high: number;
  /** The board's step: nearer than this cannot be told apart. */
  readonly resolution: number;
}

/** The first steps to either side: about the deadband of most servos, so that it cannot be stepped over. */
const seekStep = 8;

export function beginRestSearch({ begin, low, high, resolution }: RestAsk): RestSearch {
  return {
    kind: "seeking",
    probe: begin,
    begin,
    low,
    high,
    resolution,
    steps: 0,
    restLow: Number.NaN,
    restHigh: Number.NaN,
    turnLow: low,
    turnHigh: high,
  };
}

/** The search after a person said whether the servo turns at `probe`. Refused when it turns everywhere in the window. */
export function tellRestSearch(search: RestSearch, isTurning: boolean): Result<RestSearch> {
  const told = { ...search, steps: search.steps + 1 };
  switch (search.kind) {
    case "found":
      return ok(search);
    case "seeking":
      return isTurning ? seekOn(told) : ok(halveUpper(restAt(told)));
    case "upper":
      return ok(halveUpper(isTurning ? { ...told, turnHigh: search.probe } : { ...told, restHigh: search.probe }));
    case "lower":
      return ok(halveLower(isTurning ? { ...told, turnLow: search.probe } : { ...told, restLow: search.probe }));
  }
}

/** Where it rests and how wide; null while that is not known. */
export function restOf(
  search: RestSearch,
): { readonly low: number; readonly high: number; readonly neutral: number } | null {
  if (search.kind !== "found") return null;
  const low = (search.restLow + search.turnLow) / 2;
  const high = (search.restHigh + search.turnHigh) / 2;
  return { low, high, neutral: (low + high) / 2 };
}

/** One step further out, now above, now below: +8, −8, +16, −16 … A side whose window has ended is left out. */
function seekOn(search: RestSearch): Result<RestSearch> {
  const { begin, low, high } = search;
  for (let out = nextOut(search.probe - begin); Math.abs(out) <= high - low; out = nextOut(out)) {
    const probe = begin + out;
    if (probe >= low && probe <= high) return ok({ ...search, probe });
  }
  return problem("It turned everywhere in its window. Is it a continuous servo, and is its window wide enough?");
}

const nextOut = (out: number) => (out > 0 ? -out : seekStep - out);

/** The first place of rest: what was tried just before it on the way out is known to turn. */
function restAt(search: RestSearch): RestSearch {
  const { probe, begin, low, high } = search;
  return {
    ...search,
    restLow: probe,
    restHigh: probe,
    turnLow: probe > begin ? probe - seekStep : low,
    turnHigh: probe < begin ? probe + seekStep : high,
  };
}

/** The turning place next to a rest is at most this far out at first; so the edge is closed in on from near. */
const reach = 32;

function halveUpper(search: RestSearch): RestSearch {
  const { restHigh, turnHigh, resolution } = search;
  if (turnHigh - restHigh <= resolution) return halveLower({ ...search, kind: "lower" });
  return { ...search, kind: "upper", probe: Math.min(restHigh + reach, (restHigh + turnHigh) / 2) };
}

function halveLower(search: RestSearch): RestSearch {
  const { restLow, turnLow, resolution } = search;
  if (restLow - turnLow <= resolution)
    return { ...search, kind: "found", probe: (search.restLow + search.restHigh) / 2 };
  return { ...search, kind: "lower", probe: Math.max(restLow - reach, (restLow + turnLow) / 2) };
}
