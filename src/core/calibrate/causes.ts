import type { CheckRead } from "./check";
import { type Curve, toAngleDeg } from "./curve";
import { type Fitted, leastSquares } from "./leastSquares";
import { readingSpreadDeg } from "./uncertainty";

/**
 * What parts a servo from its curve: the horn sits elsewhere on its shaft (offset), a degree is wider or narrower than the curve has it (slope),
 * the servo is not straight where the curve is (bend), and the horn lags behind gears that turn back (play).
 */
export type Cause = "offset" | "slope" | "bend" | "play";

/** How much of the errors one cause makes, with how far that may be off in 95 of 100 cases, in degrees. */
export interface CauseShare {
  readonly deg: number;
  readonly plusMinusDeg: number;
  /** It is there, it is not, or these readings do not tell. */
  readonly verdict: "there" | "not" | "open";
}

export interface Diagnosis {
  /** Null for a cause that readings like these can say nothing of. */
  readonly shares: Readonly<Record<Cause, CauseShare | null>>;
  /** What is left when the causes are taken away: the spread of a reading, in degrees. */
  readonly spreadDeg: number;
  /** The reading that does not go with the others, by its place; null where all do. */
  readonly odd: number | null;
  /** The largest error that is left to be expected, whatever made it: at the ends, from the worse side. */
  readonly worstDeg: number;
}

/** Less than this a protractor hardly tells, and nobody need mend. */
const mattersDeg = 0.7;
/** To be there, a cause must be larger than its own ± by this; to be none, smaller than this with its ±. */
const sureBy = 1.3;
const noneDeg = 1.6;
/** A reading off by so many spreads of the others is a slip of the hand. */
const oddSpreads = 4;
const oddDeg = 1.5;

/**
 * One model with all four causes, fitted to readings from both sides: seen − curve = offset + slope·u + bend·(3u² − 1)/2 ± play/2, where u runs
 * from −1 to 1 over the angles that were read. The bend's shape is Legendre's second, so that over an even row it is told apart from offset and slope.
 */
export function diagnose(curve: Curve, readings: readonly CheckRead[]): Diagnosis | null {
  const fit = fitCauses(curve, readings);
  if (!fit) return null;
  const odd = readings.length > fit.causes.length + 2 ? oddOne(curve, readings) : null;
  const kept = odd === null ? fit : (fitCauses(curve, without(readings, odd)) ?? fit);
  const share = (cause: Cause): CauseShare | null => {
    const at = kept.causes.indexOf(cause);
    if (at < 0) return null;
    const deg = kept.fitted.values[at] as number;
    const plusMinusDeg = kept.fitted.plusMinus[at] as number;
    const size = Math.abs(deg);
    const isThere = size >= mattersDeg && size > sureBy * plusMinusDeg;
    return { deg, plusMinusDeg, verdict: isThere ? "there" : size + plusMinusDeg < noneDeg ? "not" : "open" };
  };
  const shares = { offset: share("offset"), slope: share("slope"), bend: share("bend"), play: share("play") };
  return { shares, spreadDeg: kept.fitted.spread, odd, worstDeg: worstOf(shares) };
}

interface CauseFit {
  readonly causes: readonly Cause[];
  readonly fitted: Fitted;
}

function fitCauses(curve: Curve, readings: readonly CheckRead[]): CauseFit | null {
  const saysDeg = readings.map(({ setPoint }) => toAngleDeg(curve, setPoint));
  const [low, high] = [Math.min(...saysDeg), Math.max(...saysDeg)];
  const half = (high - low) / 2;
  const places = new Set(saysDeg.map((deg) => Math.round(deg))).size;
  const sides = new Set(readings.map(({ cameFrom }) => cameFrom)).size;
  const causes: Cause[] = ["offset"];
  if (places > 1 && half > 2) causes.push("slope");
  if (places > 3) causes.push("bend");
  if (sides > 1) causes.push("play");
  const row = (at: number): number[] => {
    const u = half > 0 ? ((saysDeg[at] as number) - low) / half - 1 : 0;
    const side = readings[at]?.cameFrom === "above" ? 0.5 : -0.5;
    const all = { offset: 1, slope: u, bend: (3 * u * u - 1) / 2, play: side };
    return causes.map((cause) => all[cause]);
  };
  const errors = readings.map(({ seenDeg }, at) => seenDeg - (saysDeg[at] as number));
  const spread = readingSpreadDeg(readings.map(({ seenDeg }) => seenDeg));
  const fitted = leastSquares(
    readings.map((_, at) => row(at)),
    errors,
    spread,
  );
  return fitted && { causes, fitted };
}

/** The one reading that the others agree against: they fit well without it, and it lies far off what they say. */
function oddOne(curve: Curve, readings: readonly CheckRead[]): number | null {
  const whole = fitCauses(curve, readings);
  if (!whole) return null;
  const trials = readings.flatMap((_, at) => {
    const rest = fitCauses(curve, without(readings, at));
    if (!rest || rest.causes.length !== whole.causes.length) return [];
    const left = (fit: CauseFit) => fit.fitted.residuals.reduce((sum, one) => sum + one * one, 0);
    return [{ at, offDeg: Math.sqrt(Math.max(0, left(whole) - left(rest))), spread: rest.fitted.spread }];
  });
  trials.sort((a, b) => b.offDeg - a.offDeg);
  const [worst, next] = trials;
  if (!worst || worst.offDeg < oddDeg || worst.offDeg < oddSpreads * worst.spread) return null;
  // Where another would do as well, the readings do not say which of the two is wrong.
  return next && next.offDeg > 0.75 * worst.offDeg ? null : worst.at;
}

const without = (readings: readonly CheckRead[], at: number) => readings.filter((_, place) => place !== at);

function worstOf(shares: Diagnosis["shares"]): number {
  const of = (cause: Cause) => shares[cause]?.deg ?? 0;
  const at = (u: number) => of("offset") + of("slope") * u + (of("bend") * (3 * u * u - 1)) / 2;
  return Math.max(...[-1, 0, 1].map((u) => Math.abs(at(u)))) + Math.abs(of("play")) / 2;
}
