import { type FoundStop, type Seen, type StopAsk, type StopSearch, stopOf, stopSearchAfter } from "./endStops";
import { type Grid, onGrid } from "./grid";

/**
 * Finding both end stops: the upper one, then the lower one. A horn that slips on its shaft while it is pressed against a stop takes the other
 * stop along. So the horn is marked where it points in the middle before anything is pressed, and looked at again after each search. What was
 * found with a horn that slipped is nothing.
 *
 * It is data like a single search: what was asked and all that was answered. The last answer can be taken back, whatever it was.
 */
export interface StopsAsk extends Pick<StopAsk, "grid" | "deadband" | "perDeg" | "coarse"> {
  readonly centre: number;
  /** The outer window: no step leaves it. */
  readonly window: { readonly low: number; readonly high: number };
}

export type StopsAnswer =
  | { readonly kind: "marked" }
  /** What was seen of one step, and where it went: that may have been a number of the person's own. */
  | { readonly kind: "step"; readonly probe: number; readonly seen: Seen }
  /** Whether the horn points at its mark. */
  | { readonly kind: "look"; readonly isAtMark: boolean };

export type StopsStage =
  /** `mark`: where does it point now? `look`: does it still? Both are shown by the step of `markStep`. */
  | { readonly kind: "mark" }
  | { readonly kind: "look" }
  | { readonly kind: "slipped" }
  | { readonly kind: "search"; readonly search: StopSearch }
  /** It was never seen to move. */
  | { readonly kind: "dead"; readonly search: StopSearch }
  /** One side has no room for a step that the servo notices. */
  | { readonly kind: "refused"; readonly problem: string }
  | { readonly kind: "found"; readonly low: FoundStop; readonly high: FoundStop };

/** Where the finding stands after these answers. Answers that its stage did not ask for are passed over. */
export function stopsAfter(ask: StopsAsk, answers: readonly StopsAnswer[]): StopsStage {
  if (answers.length === 0) return { kind: "mark" };
  let rest = answers.slice(answers.findIndex(({ kind }) => kind === "marked") + 1);
  const found: FoundStop[] = [];
  let noticed: number | undefined;
  for (const way of [1, -1] as const) {
    const steps = rest.slice(0, lengthOfSteps(rest)) as readonly Extract<StopsAnswer, { kind: "step" }>[];
    const searched = stopSearchAfter(sideOf(ask, way, noticed), steps);
    if (!searched.ok) return { kind: "refused", problem: searched.problem };
    const search = searched.value;
    const stop = stopOf(search);
    if (!stop) return { kind: search.kind === "dead" ? "dead" : "search", search };
    const look = rest[steps.length];
    if (look?.kind !== "look") return { kind: "look" };
    if (!look.isAtMark) return { kind: "slipped" };
    rest = rest.slice(steps.length + 1);
    noticed = search.leastStep;
    found.push(stop);
  }
  const [high, low] = found as [FoundStop, FoundStop];
  return { kind: "found", low, high };
}

function lengthOfSteps(answers: readonly StopsAnswer[]): number {
  const end = answers.findIndex(({ kind }) => kind !== "step");
  return end < 0 ? answers.length : end;
}

const sideOf = (
  { centre, window, grid, deadband, perDeg, coarse }: StopsAsk,
  way: 1 | -1,
  noticed?: number,
): StopAsk => ({
  from: centre,
  way,
  bound: way > 0 ? window.high : window.low,
  grid,
  deadband,
  perDeg,
  coarse,
  ...(noticed !== undefined && { noticed }),
});

/** The step that shows where the horn points in the middle: always come to from below, so that play makes no difference. */
export function markStep({ centre, window, coarse, grid }: StopsAsk): {
  readonly stand: number;
  readonly probe: number;
} {
  return {
    stand: onGrid(grid, Math.max(centre - 2 * coarse, window.low), "up"),
    probe: onGrid(grid, centre),
  };
}

/** A horn that has slipped by less than this is not seen to have, beside a mark; in degrees. */
const leastSlipDeg = 1.5;

/**
 * What the hard window keeps from the last places that were seen to be free: what the servo does not notice, a step of the board, and a slip
 * that nobody sees; in set points.
 */
export const windowMargin = (deadband: number, { step }: Grid, perDeg: number): number =>
  Math.max(deadband, step, leastSlipDeg * Math.abs(perDeg));
