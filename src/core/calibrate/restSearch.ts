import { ok, problem, type Result } from "@core/result";
import { type Grid, onGrid, stepsUp } from "./grid";

/** What a continuous servo was seen to do: it turns one way or the other, as somebody sees it who looks at the horn, or it rests. */
export type Turning = "clockwise" | "counter" | "rests";

/**
 * Finding where a continuous servo rests. First it is seen to turn, one way above and the other way below: one that does not turn is not
 * searched. Between them lies its rest, however narrow: the place between is halved by the way it turns, until it rests somewhere, or until
 * the board can make nothing in between. Then both edges of the rest are halved. Neutral is the middle.
 *
 * Like the search for a stop it is data, nothing but its beginning and the answers, so that an answer can be taken back.
 */
export interface RestSearch {
  readonly kind: "turning" | "between" | "onceMore" | "upper" | "lower" | "found" | "none";
  /** The set point to send now, and to look at. */
  readonly probe: number;
  readonly begin: number;
  readonly low: number;
  readonly high: number;
  readonly grid: Grid;
  readonly steps: number;
  /** How far from `begin` it is looked at while it is found out whether it turns both ways. */
  readonly reach: number;
  /** The one way in which it was seen to turn, until it turns the other way as well; then the way it turns above its rest. */
  readonly wayAbove: Exclude<Turning, "rests"> | null;
  /** The outermost set points known to rest; NaN while none is known. */
  readonly restLow: number;
  readonly restHigh: number;
  /** The innermost set points known to turn on either side; NaN while none is known. */
  readonly turnLow: number;
  readonly turnHigh: number;
}

export interface RestAsk {
  /** Where it should rest, by its sheet or its last calibration. */
  readonly begin: number;
  /** The window to stay in. */
  readonly low: number;
  readonly high: number;
  /** What the board can make: nearer places than these cannot be told apart. */
  readonly grid: Grid;
}

/** So far from where it should rest it is first looked at, above and below; then twice as far, up to its window. */
const firstReach = 60;

export function beginRestSearch({ begin, low, high, grid }: RestAsk): RestSearch {
  const [from, to] = [onGrid(grid, low, "up"), onGrid(grid, high, "down")];
  const middle = Math.max(from, Math.min(to, onGrid(grid, begin)));
  const none = Number.NaN;
  return {
    kind: "turning",
    probe: Math.min(to, middle + stepsUp(grid, firstReach)),
    reach: stepsUp(grid, firstReach),
    begin: middle,
    low: from,
    high: to,
    grid,
    steps: 0,
    wayAbove: null,
    restLow: none,
    restHigh: none,
    turnLow: none,
    turnHigh: none,
  };
}

/** The search after these answers, each to what the search before it sent. */
export const restSearchAfter = (ask: RestAsk, answers: readonly Turning[]): Result<RestSearch> =>
  answers.reduce<Result<RestSearch>>(
    (search, seen) => (search.ok ? tellRestSearch(search.value, seen) : search),
    ok(beginRestSearch(ask)),
  );

/** The search after a person said what the servo does at `probe`. Refused where that cannot be, or where nothing is to be found. */
export function tellRestSearch(search: RestSearch, seen: Turning): Result<RestSearch> {
  const told = { ...search, steps: search.steps + 1 };
  switch (search.kind) {
    case "found":
    case "none":
      return ok(search);
    case "turning":
      return turning(told, seen);
    case "between":
      if (seen === "rests") return ok(upper({ ...told, restLow: search.probe, restHigh: search.probe }));
      return ok(
        between(seen === search.wayAbove ? { ...told, turnHigh: search.probe } : { ...told, turnLow: search.probe }),
      );
    case "onceMore":
      return onceMore(told, seen);
    case "upper":
      if (seen === "rests") return ok(upper({ ...told, restHigh: search.probe }));
      if (seen !== search.wayAbove) return contradicted(search, "above");
      return ok(upper({ ...told, turnHigh: search.probe }));
    case "lower":
      if (seen === "rests") return ok(lower({ ...told, restLow: search.probe }));
      if (seen === search.wayAbove) return contradicted(search, "below");
      return ok(lower({ ...told, turnLow: search.probe }));
  }
}

/** Where it rests, and how far each edge may be off; null while that is not known, and where the board can make no rest. */
export function restOf({ kind, restLow, restHigh, turnLow, turnHigh }: RestSearch) {
  if (kind !== "found") return null;
  const low = (restLow + turnLow) / 2;
  const high = (restHigh + turnHigh) / 2;
  return { low, high, neutral: (low + high) / 2, plusMinus: Math.max(restLow - turnLow, turnHigh - restHigh) / 2 };
}

/** First it must be seen to turn, and both ways: looked at above and below, further and further out. */
function turning(search: RestSearch, seen: Turning): Result<RestSearch> {
  const { probe, begin, low, high, wayAbove } = search;
  if (seen === "rests") {
    const restLow = Math.min(probe, Number.isNaN(search.restLow) ? probe : search.restLow);
    const restHigh = Math.max(probe, Number.isNaN(search.restHigh) ? probe : search.restHigh);
    return further({ ...search, restLow, restHigh });
  }
  const turnLow = Math.min(probe, Number.isNaN(search.turnLow) ? probe : search.turnLow);
  const turnHigh = Math.max(probe, Number.isNaN(search.turnHigh) ? probe : search.turnHigh);
  if (wayAbove === null || wayAbove === seen) return further({ ...search, wayAbove: seen, turnLow, turnHigh });
  // Looked at further and further out, the new place lies outside of all that turned the other way.
  const isAbove = probe > begin;
  const both = isAbove
    ? { ...search, wayAbove: seen, turnLow: search.turnHigh, turnHigh: probe }
    : { ...search, turnLow: probe, turnHigh: search.turnLow };
  if (Number.isNaN(both.restLow)) return ok(between(both));
  const rests = both.restLow > both.turnLow && both.restHigh < both.turnHigh;
  return rests
    ? ok(upper(both))
    : problem(
        `It rested at ${both.restLow.toFixed(0)} µs, but turned the same way on both sides of that from ${low.toFixed(0)} to ${high.toFixed(0)} µs: one of the answers is a slip.`,
      );
}

/** The next place on the other side, or further out. */
function further(search: RestSearch): Result<RestSearch> {
  const { probe, begin, low, high, reach, grid } = search;
  const below = Math.max(low, begin - reach);
  if (probe > begin && below < begin) return ok({ ...search, probe: below });
  if (begin + reach >= high && begin - reach <= low) return problem(whyNot(search));
  // At rest on both sides: it rests widely, or not at all does it turn. The ends of its window tell.
  const next = search.wayAbove === null ? high - low : stepsUp(grid, 2 * reach);
  const up = Math.min(high, begin + next);
  return ok({ ...search, reach: next, probe: up > begin ? up : Math.max(low, begin - next) });
}

function whyNot({ wayAbove, low, high, restLow }: RestSearch): string {
  const range = `from ${low.toFixed(0)} to ${high.toFixed(0)} µs`;
  if (wayAbove === null)
    return `It was not seen to turn anywhere ${range}. Is its supply on, is its signal on this channel, and does it turn without end?`;
  return Number.isNaN(restLow)
    ? `It turned the same way everywhere ${range}: it rests outside its window, or it is no continuous servo.`
    : `It turned only one way ${range}: where its rest ends on the other side lies outside its window. Widen that under Limits, then search again.`;
}

/** Between a place that turns one way and one that turns the other. */
function between(search: RestSearch): RestSearch {
  const probe = halfWay(search.grid, search.turnLow, search.turnHigh);
  return probe === null
    ? { ...search, kind: "onceMore", probe: search.turnLow }
    : { ...search, kind: "between", probe };
}

/** That a board can make no rest hangs on two answers alone: both places are looked at once more. */
function onceMore(search: RestSearch, seen: Turning): Result<RestSearch> {
  const { probe, turnLow, turnHigh, wayAbove } = search;
  if (seen === "rests") return ok(upper({ ...search, restLow: probe, restHigh: probe, ...around(search) }));
  if ((probe === turnHigh) !== (seen === wayAbove))
    return problem(
      `At ${probe.toFixed(1)} µs it was seen to turn the other way before: one of the answers is a slip. Take some back, or begin again.`,
    );
  return ok(probe === turnLow ? { ...search, probe: turnHigh } : { ...search, kind: "none" });
}

/** A place that was thought to turn rests after all: what turns lies further out on its side, by one reach at most. */
const around = ({ probe, turnLow, turnHigh, grid, low, high }: RestSearch) => ({
  turnLow: probe === turnLow ? Math.max(low, probe - stepsUp(grid, firstReach)) : turnLow,
  turnHigh: probe === turnHigh ? Math.min(high, probe + stepsUp(grid, firstReach)) : turnHigh,
});

function upper(search: RestSearch): RestSearch {
  const probe = halfWay(search.grid, search.restHigh, search.turnHigh);
  return probe === null ? lower(search) : { ...search, kind: "upper", probe };
}

function lower(search: RestSearch): RestSearch {
  const probe = halfWay(search.grid, search.turnLow, search.restLow);
  if (probe !== null) return { ...search, kind: "lower", probe };
  return { ...search, kind: "found", probe: onGrid(search.grid, (search.restLow + search.restHigh) / 2) };
}

/** A place of the board's half-way between two others; null where there is none. */
function halfWay(grid: Grid, low: number, high: number): number | null {
  const steps = Math.round((high - low) / grid.step);
  return steps < 2 ? null : onGrid(grid, low + Math.floor(steps / 2) * grid.step);
}

const contradicted = ({ probe, restLow, restHigh }: RestSearch, side: "above" | "below") =>
  problem(
    `At ${probe.toFixed(1)} µs, ${side} its rest, it should turn the other way: it rested at ${(side === "above" ? restHigh : restLow).toFixed(1)} µs. One of the two answers is a slip: look again, or take the last one back.`,
  );
