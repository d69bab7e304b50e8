import { ok, problem, type Result } from "@core/result";
import { type Grid, onGrid, stepsUp } from "./grid";

/** What a continuous servo was seen to do: it turns one way or the other, as somebody sees it who looks at the horn, or it rests. */
export type Turning = "clockwise" | "counter" | "rests";
type Way = Exclude<Turning, "rests">;

/** What was seen, and the set point that it was seen at. */
export interface RestAnswer {
  readonly probe: number;
  readonly seen: Turning;
}

/**
 * Finding where a continuous servo rests. First it is seen to turn, one way above and the other way below: one that does not turn is not
 * searched. Between them lies its rest, however narrow: the place between is halved by the way it turns, until it rests somewhere, or until
 * the board can make nothing in between. Then both edges of the rest are halved. Neutral is the middle.
 *
 * Nobody sees everything: one who looks too early sees the servo end its last turn. So answers that cannot all be right are asked for once more,
 * and so is each answer that an edge hangs on alone, if the edge could lie much further off without it. What was seen most often at a place is believed.
 *
 * The search is a function of the answers alone, so that each can be taken back.
 */
export interface RestSearch {
  /** `again`: something is looked at once more. `none`: the board can make no rest. */
  readonly kind: "turning" | "between" | "again" | "upper" | "lower" | "found" | "none";
  /** The set point to send now, and to look at. */
  readonly probe: number;
  readonly steps: number;
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
/** An answer is asked for once more if without it an edge could lie further off than this, or than so many steps of the board. */
const doubtFrom = 4;
/** Whoever contradicts themselves again and again is not asked for ever. */
const mostDoubts = 8;

/** What is known of a place: what was seen there most often, or last where that is even. */
interface Known {
  readonly place: number;
  readonly seen: Turning;
  /** Seen so at least twice. */
  readonly isSure: boolean;
  /** When it was looked at last, in answers. */
  readonly lastAt: number;
}

export const beginRestSearch = (ask: RestAsk): Result<RestSearch> => restSearchAfter(ask, []);

/** The search after these answers. Refused where they cannot be, or where nothing is to be found. */
export function restSearchAfter(ask: RestAsk, answers: readonly RestAnswer[]): Result<RestSearch> {
  const known = knownFrom(answers);
  const wayAbove = wayAboveOf(known);
  const sideOf = ({ seen }: Known) => (seen === "rests" ? 0 : seen === wayAbove ? 1 : -1);
  const doubtful = quarrelling(known, sideOf);
  if (doubtful) {
    const asked = doubtful.filter(({ isSure }) => !isSure);
    const [first] = asked;
    return first && answers.length - known.length < mostDoubts
      ? ok(searching("again", first.place, answers, known, sideOf))
      : problem(contradiction(doubtful));
  }
  const search = searching("turning", ask.begin, answers, known, sideOf);
  const { turnLow, turnHigh, restLow } = search;
  if (Number.isNaN(turnLow) || Number.isNaN(turnHigh)) return turning(ask, search, known);
  const at = (kind: RestSearch["kind"], probe: number) => ok({ ...search, kind, probe });
  const once = (place: number) => !known.some((one) => one.place === place && one.isSure);
  if (Number.isNaN(restLow)) {
    const middle = halfWay(ask.grid, turnLow, turnHigh);
    if (middle !== null) return at("between", middle);
    // That a board can make no rest hangs on two answers alone.
    const unsure = [turnLow, turnHigh].find(once);
    return unsure === undefined ? at("none", turnLow) : at("again", unsure);
  }
  const { restHigh } = search;
  const up = halfWay(ask.grid, restHigh, turnHigh);
  if (up !== null) return at("upper", up);
  const down = halfWay(ask.grid, turnLow, restLow);
  if (down !== null) return at("lower", down);
  const much = doubtFrom * Math.max(1, ask.grid.step);
  const unsure = hangingOn(search, known, much).find(once);
  const hasDoubtsLeft = answers.length - known.length < mostDoubts;
  return unsure === undefined || !hasDoubtsLeft
    ? at("found", onGrid(ask.grid, (restLow + restHigh) / 2))
    : at("again", unsure);
}

/** Where it rests, and how far each edge may be off; null while that is not known, and where the board can make no rest. */
export function restOf({ kind, restLow, restHigh, turnLow, turnHigh }: RestSearch) {
  if (kind !== "found") return null;
  const low = (restLow + turnLow) / 2;
  const high = (restHigh + turnHigh) / 2;
  return { low, high, neutral: (low + high) / 2, plusMinus: Math.max(restLow - turnLow, turnHigh - restHigh) / 2 };
}

/** What is known of each place that was looked at, from low to high. */
function knownFrom(answers: readonly RestAnswer[]): readonly Known[] {
  const seenAt = new Map<number, Turning[]>();
  for (const { probe, seen } of answers) seenAt.set(probe, [...(seenAt.get(probe) ?? []), seen]);
  const lastAt = new Map(answers.map(({ probe }, at) => [probe, at]));
  return [...seenAt]
    .map(([place, all]) => {
      const timesOf = (seen: Turning) => all.filter((one) => one === seen).length;
      const seen = all.reduceRight((best, one) => (timesOf(one) > timesOf(best) ? one : best));
      return { place, seen, isSure: timesOf(seen) > 1, lastAt: lastAt.get(place) ?? 0 };
    })
    .sort((a, b) => a.place - b.place);
}

/** What was seen twice weighs so much more than what was seen once: a few slips do not outvote it. */
const sureWeighs = 10;

/** The way it turns above its rest: the one that more of what was seen agrees with. */
function wayAboveOf(known: readonly Known[]): Way {
  const agreeing = (above: Way): number => {
    const side = ({ seen }: Known) => (seen === "rests" ? 0 : seen === above ? 1 : -1);
    const weight = ({ isSure }: Known) => (isSure ? sureWeighs : 1);
    const saysOf = (one: Known, other: Known) => Math.sign(side(other) - side(one)) * weight(one) * weight(other);
    return known.reduce(
      (sum, one, at) => sum + known.slice(at + 1).reduce((all, other) => all + saysOf(one, other), 0),
      0,
    );
  };
  return agreeing("clockwise") >= agreeing("counter") ? "clockwise" : "counter";
}

/** Places of which not all can be right, the one that most others speak against first, of equals the one seen last; null where all can be. */
function quarrelling(known: readonly Known[], sideOf: (one: Known) => number): readonly Known[] | null {
  const against = new Map<Known, number>();
  for (const [at, one] of known.entries())
    for (const other of known.slice(at + 1))
      if (sideOf(one) > sideOf(other)) for (const each of [one, other]) against.set(each, (against.get(each) ?? 0) + 1);
  if (against.size === 0) return null;
  return [...against].sort(([a, many], [b, more]) => more - many || b.lastAt - a.lastAt).map(([one]) => one);
}

function contradiction([worst, ...others]: readonly Known[]): string {
  const words = { clockwise: "turn clockwise", counter: "turn anticlockwise", rests: "rest" };
  const said = ({ place, seen }: Known) => `at ${place.toFixed(1)} µs it was seen to ${words[seen]}`;
  const both = [worst, others[0]].flatMap((one) => (one ? said(one) : [])).join(", and ");
  return `These do not go together, also when looked at again: ${both}. Does something turn the horn by hand, or is its signal lost now and then? Take answers back, or begin again.`;
}

function searching(
  kind: RestSearch["kind"],
  probe: number,
  answers: readonly RestAnswer[],
  known: readonly Known[],
  sideOf: (one: Known) => number,
): RestSearch {
  const placesAt = (side: number) => known.filter((one) => sideOf(one) === side).map(({ place }) => place);
  const rests = placesAt(0);
  return {
    kind,
    probe,
    steps: answers.length,
    restLow: rests[0] ?? Number.NaN,
    restHigh: rests.at(-1) ?? Number.NaN,
    turnLow: placesAt(-1).at(-1) ?? Number.NaN,
    turnHigh: placesAt(1)[0] ?? Number.NaN,
  };
}

/** First it must be seen to turn, and both ways: looked at above and below, further and further out. */
function turning({ begin, low, high, grid }: RestAsk, search: RestSearch, known: readonly Known[]): Result<RestSearch> {
  const [from, to] = [onGrid(grid, low, "up"), onGrid(grid, high, "down")];
  const middle = Math.max(from, Math.min(to, onGrid(grid, begin)));
  const hasTurned = known.some(({ seen }) => seen !== "rests");
  const isNew = (place: number) => place !== middle && !known.some((one) => one.place === place);
  for (let reach = stepsUp(grid, firstReach); ; ) {
    const next = [Math.min(to, middle + reach), Math.max(from, middle - reach)].find(isNew);
    if (next !== undefined) return ok({ ...search, kind: "turning", probe: next });
    if (middle + reach >= to && middle - reach <= from) return problem(whyNot(known, hasTurned, from, to));
    // At rest on both sides: it rests widely, or not at all does it turn. The ends of its window tell. Twice as far as they are, so that no
    // rounding leaves it short of them for ever.
    reach = hasTurned ? stepsUp(grid, 2 * reach) : 2 * (to - from);
  }
}

function whyNot(known: readonly Known[], hasTurned: boolean, low: number, high: number): string {
  const range = `from ${low.toFixed(0)} to ${high.toFixed(0)} µs`;
  if (!hasTurned)
    return `It was not seen to turn anywhere ${range}. Is its supply on, is its signal on this channel, and does it turn without end?`;
  return known.some(({ seen }) => seen === "rests")
    ? `It turned only one way ${range}: where its rest ends on the other side lies outside its window. Widen that under Limits, then search again.`
    : `It turned the same way everywhere ${range}: it rests outside its window, or it is no continuous servo.`;
}

/** The places of which an edge hangs on the answer alone: without it, it could lie further off than `much`. */
function hangingOn({ restLow, restHigh, turnLow, turnHigh }: RestSearch, known: readonly Known[], much: number) {
  const places = known.map(({ place }) => place);
  const after = (place: number) => places.find((one) => one > place) ?? Number.POSITIVE_INFINITY;
  const before = (place: number) => places.findLast((one) => one < place) ?? Number.NEGATIVE_INFINITY;
  return [
    ...(restHigh - before(restHigh) > much ? [restHigh] : []),
    ...(after(turnHigh) - turnHigh > much ? [turnHigh] : []),
    ...(after(restLow) - restLow > much ? [restLow] : []),
    ...(turnLow - before(turnLow) > much ? [turnLow] : []),
  ];
}

/** A place of the board's half-way between two others; null where there is none. */
function halfWay(grid: Grid, low: number, high: number): number | null {
  const steps = Math.round((high - low) / grid.step);
  return steps < 2 ? null : onGrid(grid, low + Math.floor(steps / 2) * grid.step);
}
