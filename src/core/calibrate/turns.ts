import { ok, problem, type Result } from "@core/result";

/** A speed, counted by taps at each full turn. */
export interface CountedSpeed {
  readonly turns: number;
  readonly seconds: number;
  readonly degPerS: number;
  /** How far it may be off: a finger is late by about 0.08 s at either end. */
  readonly errorDegPerS: number;
}

const fingerS = 0.08;
const leastTurns = 3;

/**
 * The speed from the moments, in ms, at which a mark on the horn passed: a tap for each turn. The first tap starts the clock, so two
 * taps are one turn. At least three turns are counted, so that one of them can be held against the others: a tap much sooner or later than usual
 * means that a turn was tapped twice or missed, and is refused.
 */
export function speedOfTaps(tapsMs: readonly number[]): Result<CountedSpeed> {
  const turns = tapsMs.length - 1;
  if (turns < leastTurns)
    return problem("Tap each time the mark passes, four times at least: of fewer, none can be held against another.");
  const gaps = tapsMs.slice(1).map((ms, at) => ms - (tapsMs[at] as number));
  const usual = gaps.toSorted((a, b) => a - b)[Math.floor(gaps.length / 2)] as number;
  const wrong = gaps.findIndex((gap) => gap < usual * 0.65 || gap > usual * 1.45);
  if (wrong >= 0)
    return problem(
      `Turn ${wrong + 1} took ${((gaps[wrong] as number) / 1000).toFixed(2)} s, the others about ${(usual / 1000).toFixed(2)} s: a tap too many or too few. Start again.`,
    );
  const seconds = ((tapsMs.at(-1) as number) - (tapsMs[0] as number)) / 1000;
  if (!(seconds > 0)) return problem("The taps came at the same moment. Start again.");
  const degPerS = (360 * turns) / seconds;
  return ok({ turns, seconds, degPerS, errorDegPerS: (degPerS * fingerS * Math.SQRT2) / seconds });
}
