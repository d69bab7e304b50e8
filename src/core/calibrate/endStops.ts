import { ok, problem, type Result } from "@core/result";
import { type Grid, onGrid, stepsUp } from "./grid";

/**
 * Finding one end stop by hand. First, whether the servo moves at all, and by how small a step: its deadband is only a guess.
 * Then from the centre outward in coarse steps while the horn moves; then the place is halved. All of it on what the board can make.
 *
 * That the horn moved in a step does not say that it got there: the last step may have ended against the stop. So when a step does
 * not turn it, the stop lies somewhere in the step *before*, between `safe` and `stand`. Each further question stands half-way and
 * steps to the far end: it moves, and the stop is in the far half; it does not, and it is in the near half. A step is never shorter than
 * what the servo was seen to notice, even if that presses a little further. So a stop is only found between a place from which the horn was
 * seen to turn on, and one from which it was seen not to.
 *
 * Nobody sees everything: after one wrong answer the search would close in on the place of that answer. So before a stop is believed, each of the two answers
 * that it hangs on is asked for once more, if the stop could lie much further on without it.
 *
 * The search is data: it says where to stand and where to step, a person says what the horn did, and an answer can be taken back, since
 * a search is nothing but its beginning and the answers. It has no clock; how long a step may press on a stop is for the one who drives it
 * to keep (see `longestPressMs`).
 */
export interface StopSearch {
  /** `again`: an earlier step is shown once more. `dead`: it never moved, whatever was asked. */
  readonly kind: "trying" | "outward" | "homing" | "again" | "found" | "dead";
  /** +1 toward larger set points, −1 toward smaller. */
  readonly way: 1 | -1;
  /** From here the horn was seen to turn on outward: surely short of the stop. */
  readonly safe: number;
  /** Where the next step begins, and where it goes. */
  readonly stand: number;
  readonly probe: number;
  /** Once it homes in: from here the horn was seen not to turn on, or the window ends here. */
  readonly far: number;
  /** The last place that the board can make inside the outer window; it is never passed. */
  readonly bound: number;
  /** How closely the stop is wanted; never finer than a step of the board. */
  readonly resolution: number;
  /** A step that the servo was seen to notice; while it is tried, the one that is asked. */
  readonly leastStep: number;
  /** While it is tried: it was seen once, and is shown again, since a servo may have stood a little short of where the first one began. */
  readonly isSeenOnce: boolean;
  /** A turn smaller than this cannot be seen; in set points. */
  readonly unseen: number;
  readonly coarse: number;
  readonly grid: Grid;
  readonly steps: number;
  /** The horn never failed to move: there is no stop inside the window. */
  readonly isFree: boolean;
  /** From where it was seen to turn on outward, the last of them last; the centre before them. */
  readonly turnedFrom: readonly number[];
  /** Where `far` would be without the answer that set it. */
  readonly farBefore: number;
  /** Places whose step was shown once more, and answered as before. */
  readonly sure: readonly number[];
  /** How often a step has been shown once more. */
  readonly doubts: number;
}

export type Seen = "moved" | "stopped" | "hums";

/** What was seen of one step, and where it went: that may have been a number of the person's own. */
export interface StopAnswer {
  readonly probe: number;
  readonly seen: Seen;
}

/** A step presses on a stop no longer than this; then the tool backs off by itself. */
export const longestPressMs = 700;

/** A turn of less than this is not seen by an eye that watches a horn, in degrees. */
const leastSeenDeg = 0.3;
/** An answer is asked for once more if without it the stop could lie further off than so many times what is wanted. */
const doubtFrom = 4;
/** Whoever contradicts themselves again and again is not asked for ever. */
const mostDoubts = 4;
/** A servo that is not seen to move by this many coarse steps does not move at all. */
const deadAfterSteps = 4;

export interface StopAsk {
  readonly from: number;
  readonly way: 1 | -1;
  /** The end of the outer window. */
  readonly bound: number;
  /** What the board can make. */
  readonly grid: Grid;
  /** Of the servo, as its card has it, in set points; a guess, so that the first step is well above it. */
  readonly deadband: number;
  /** Set points per degree, about. */
  readonly perDeg: number;
  /** The first steps outward. */
  readonly coarse: number;
  /** A step that it was seen to notice in an earlier search; then it is not tried again. */
  readonly noticed?: number;
}

/** Begins a search. Refused when there is no room between where it begins and the outer window. */
export function beginStopSearch(ask: StopAsk): Result<StopSearch> {
  const { way, grid, deadband, perDeg, noticed } = ask;
  const leastStep = noticed ?? stepsUp(grid, Math.max(2.5 * deadband, 5));
  const from = onGrid(grid, ask.from);
  const bound = onGrid(grid, ask.bound, way > 0 ? "down" : "up");
  if (way * (bound - from) < leastStep) return problem("The servo already stands at the edge of its outer window.");
  const search: StopSearch = {
    kind: "trying",
    way,
    safe: from,
    stand: from,
    probe: from + way * leastStep,
    far: bound,
    bound,
    resolution: Math.max(2, grid.step),
    leastStep,
    isSeenOnce: false,
    unseen: leastSeenDeg * Math.abs(perDeg),
    coarse: Math.max(stepsUp(grid, ask.coarse), leastStep),
    grid,
    steps: 0,
    isFree: true,
    turnedFrom: [from],
    farBefore: bound,
    sure: [],
    doubts: 0,
  };
  return ok(noticed === undefined ? search : stepOut({ ...search, kind: "outward" }, from));
}

/** The search after these answers: each is to the step that the search before it asked for. */
export function stopSearchAfter(ask: StopAsk, answers: readonly StopAnswer[]): Result<StopSearch> {
  const begun = beginStopSearch(ask);
  if (!begun.ok) return begun;
  let search = begun.value;
  for (const { probe, seen } of answers) search = tellStopSearch({ ...search, probe }, seen);
  return ok(search);
}

/** The search after a person said what the horn did in the step. */
export function tellStopSearch(search: StopSearch, seen: Seen): StopSearch {
  const { kind, safe, stand, probe, far, bound } = search;
  if (kind === "found" || kind === "dead") return search;
  const hasMoved = seen === "moved";
  const told = { ...search, steps: search.steps + 1 };
  if (kind === "trying") {
    if (!hasMoved) return tryFurther(told);
    return search.isSeenOnce ? stepOut(noticing(told), stand) : { ...told, isSeenOnce: true };
  }
  const asked = { ...told, isFree: search.isFree && hasMoved };
  if (kind === "again") return toldAgain(asked, hasMoved);
  if (hasMoved) asked.turnedFrom = [...search.turnedFrom, stand];
  else asked.farBefore = kind === "outward" ? bound : far;
  if (kind === "homing") return hasMoved ? home(asked, stand, far) : home(asked, safe, stand);
  if (!hasMoved) return home(asked, safe, stand);
  // At the window's edge nothing can be tried further out; whether the last step got there is asked by halving it.
  return probe === bound ? home(asked, stand, probe) : stepOut({ ...asked, safe: stand }, probe);
}

/** Where the stop lies: what was found, how far it may be off either way, and the last place that is surely short of it. */
export interface FoundStop {
  readonly setPoint: number;
  readonly plusMinus: number;
  readonly inside: number;
  /** No stop was met: the horn still turned at the edge of the window. */
  readonly isFree: boolean;
}

/** What a search has found; null while it goes on, and for a servo that never moved. */
export function stopOf({ kind, way, safe, far, bound, unseen, isFree, resolution }: StopSearch): FoundStop | null {
  if (kind !== "found") return null;
  if (isFree) return { setPoint: bound, plusMinus: resolution, inside: safe, isFree };
  // It turned on from `safe` by what could be seen, or more, and from `far` by less than could be seen.
  const middle = (safe + far) / 2 + way * unseen;
  const setPoint = way * (middle - bound) > 0 ? bound : middle;
  return { setPoint, plusMinus: Math.abs(far - safe) / 2 + unseen / 2, inside: safe, isFree };
}

/** What a card keeps of it: where no stop was met there is none to keep, only a window that ended first. */
export const stopForCard = ({ setPoint, isFree }: FoundStop): number | null => (isFree ? null : setPoint);

/**
 * The hard window inside both stops: the last places that were seen to be short of them, and a margin for what changes from day to day. An end
 * without a stop keeps the margin too if the other stop was pressed: that may have brought this one nearer. It is never wider than the one that is in force: that may have been drawn in while the search went on.
 * @param margin see `windowMargin`
 */
export const windowInside = (
  low: Pick<FoundStop, "inside" | "isFree">,
  high: Pick<FoundStop, "inside" | "isFree">,
  margin: number,
  inForce: { readonly low: number; readonly high: number },
) => ({
  low: Math.max(inForce.low, low.isFree && high.isFree ? low.inside : low.inside + margin),
  high: Math.min(inForce.high, low.isFree && high.isFree ? high.inside : high.inside - margin),
});

/**
 * Where to stand back to between steps: short of what is surely free by more than it needs to notice that it was called back, and by which it
 * then notices where the next step begins.
 */
export function retreatOf({ way, safe, coarse, leastStep, grid }: StopSearch): number {
  return safe - way * stepsUp(grid, Math.max(coarse / 2, leastStep));
}

/** Time to stand still in before a step, so that only the step itself is seen: at least, and at most, since it may press already. */
export const settleAtLeastMs = 250;
const settleAtMostMs = 400;

/** How long a servo of this speed needs to come from where it stood back, so that only the step itself is seen. */
export function settleMsOf(search: StopSearch, perDeg: number, degPerS: number): number {
  // It stood back from the step before, which was one coarse step nearer to the middle.
  const behind = search.kind === "outward" ? search.coarse : 0;
  const wayDeg = (Math.abs(search.stand - retreatOf(search)) + behind) / Math.abs(perDeg);
  return Math.min(settleAtMostMs, Math.max(settleAtLeastMs, (1500 * wayDeg) / degPerS));
}

/** The step of this trial was seen: so wide a step it notices. */
function noticing(search: StopSearch): StopSearch {
  const leastStep = Math.abs(search.probe - search.stand);
  return { ...search, leastStep, coarse: Math.max(search.coarse, leastStep) };
}

/** Not seen to move: twice as far, and where that is as far as can be, it does not move at all. */
function tryFurther(search: StopSearch): StopSearch {
  const { way, stand, probe, bound, coarse, grid } = search;
  const tried = Math.abs(probe - stand);
  if (probe === bound || tried >= deadAfterSteps * coarse) return { ...search, kind: "dead" };
  const next = stand + way * stepsUp(grid, 2 * tried);
  const outer = way * (next - bound) > 0 ? bound : next;
  return { ...search, probe: outer, leastStep: Math.abs(outer - stand), isSeenOnce: false };
}

function stepOut(search: StopSearch, stand: number): StopSearch {
  const outward = stand + search.way * search.coarse;
  // What would be left of the window is less than it notices: it is part of this step.
  const probe = search.way * (search.bound - outward) < search.leastStep ? search.bound : outward;
  return { ...search, kind: "outward", stand, probe, far: probe };
}

/** Goes on with the stop known to lie past `safe` and not past `far`. */
function home(search: StopSearch, safe: number, far: number): StopSearch {
  const { way, bound, resolution, leastStep, grid } = search;
  const middle = onGrid(grid, (safe + far) / 2, way > 0 ? "down" : "up");
  // Nearer to the window's end than a step that it notices, nothing can be asked.
  const last = bound - way * leastStep;
  const stand = way * (middle - last) > 0 ? last : middle;
  const isOver = Math.abs(far - safe) <= resolution || way * (stand - safe) < grid.step / 2;
  if (isOver)
    return doubted({ ...search, safe, far }) ?? { ...search, kind: "found", safe, stand: safe, probe: safe, far };
  const noticed = stand + way * leastStep;
  const outer = way * (noticed - far) > 0 ? noticed : far;
  return { ...search, kind: "homing", safe, stand, probe: outer, far };
}

/** The step that is to be shown once more, since the stop hangs on its answer alone; null where nothing is in doubt. */
function doubted(search: StopSearch): StopSearch | null {
  const { safe, far, farBefore, way, bound, leastStep, turnedFrom, resolution, sure, doubts } = search;
  if (doubts >= mostDoubts) return null;
  const much = doubtFrom * resolution;
  const hangsOnFar = way * (farBefore - far) > much && way * (bound - far) >= leastStep;
  const hangsOnSafe = way * (safe - (turnedFrom.at(-2) ?? safe)) > much;
  const stand = hangsOnFar && !sure.includes(far) ? far : hangsOnSafe && !sure.includes(safe) ? safe : null;
  return stand === null
    ? null
    : { ...search, kind: "again", stand, probe: stand + way * leastStep, doubts: doubts + 1 };
}

/** What was answered to a step that was shown once more: as the first time, and it is believed; or otherwise, and the search goes on from there. */
function toldAgain(search: StopSearch, hasMoved: boolean): StopSearch {
  const { way, stand, probe, safe, far, turnedFrom, bound, leastStep } = search;
  const isAboutFar = stand === far;
  if (hasMoved !== isAboutFar) return home({ ...search, sure: [...search.sure, stand] }, safe, far);
  if (isAboutFar) {
    // Nothing was seen to stop it, then, or not yet.
    const goesOn = { ...search, safe: stand, turnedFrom: [...turnedFrom, stand], farBefore: bound, isFree: true };
    return way * (bound - probe) < leastStep ? home(goesOn, stand, bound) : stepOut(goesOn, probe);
  }
  const before = turnedFrom.filter((place) => way * (stand - place) > 0);
  return home({ ...search, turnedFrom: before, farBefore: far }, before.at(-1) ?? stand, stand);
}
