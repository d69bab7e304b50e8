import type { Clip, Lane, Routine } from "@core/project";
import { ok, problem, type Result } from "@core/result";
import { endOfClip, lastAtMost, type Score } from "@core/routine";
import { longestStepMs, type Step, stretchedStep } from "@core/steps";

/** A stretch of a routine's time that is to take at least `factor` times as long. */
export interface Need {
  readonly fromMs: number;
  readonly toMs: number;
  readonly factor: number;
}

/**
 * The time of a routine, stretched in places. What happened together still happens together: the same new time is given to steps, to the keys of
 * all lanes, and to the ends of clips.
 */
class Warp {
  readonly #moments: Float64Array;
  readonly #becomes: Float64Array;

  constructor(score: Score, needs: readonly Need[]) {
    const { routine } = score;
    const marks = new Set<number>([0, score.lengthMs]);
    for (const span of score.spans) for (const ms of [span.fromMs, span.arriveMs, span.toMs]) marks.add(ms);
    for (const lane of routine.lanes) for (const key of lane.keys) marks.add(key.atMs);
    for (const clip of routine.clips) marks.add(clip.atMs).add(endOfClip(clip));
    for (const need of needs) marks.add(need.fromMs).add(need.toMs);
    this.#moments = Float64Array.from(marks).sort();
    const factors = new Float64Array(this.#moments.length).fill(1);
    for (const { fromMs, toMs, factor } of needs)
      for (let at = lastAtMost(this.#moments, fromMs); (this.#moments[at] ?? Number.POSITIVE_INFINITY) < toMs; at += 1)
        factors[at] = Math.max(factors[at] as number, factor);
    this.#becomes = new Float64Array(this.#moments.length);
    for (let at = 1; at < this.#moments.length; at += 1) {
      const ms = (this.#moments[at] as number) - (this.#moments[at - 1] as number);
      this.#becomes[at] = (this.#becomes[at - 1] as number) + ms * (factors[at - 1] as number);
    }
  }

  /** When a moment comes to lie. */
  at(ms: number): number {
    const last = this.#moments.length - 1;
    const at = Math.min(Math.max(lastAtMost(this.#moments, ms), 0), last);
    const [from, to] = [this.#moments[at] as number, this.#moments[at + 1]];
    if (to === undefined) return (this.#becomes[last] as number) + (ms - from);
    const factor = ((this.#becomes[at + 1] as number) - (this.#becomes[at] as number)) / (to - from);
    return (this.#becomes[at] as number) + (ms - from) * factor;
  }

  lengthOf(fromMs: number, toMs: number): number {
    return this.at(toMs) - this.at(fromMs);
  }

  /** How many times as long a stretch becomes. */
  factorOf(fromMs: number, toMs: number): number {
    return toMs > fromMs ? this.lengthOf(fromMs, toMs) / (toMs - fromMs) : 1;
  }
}

/** The routine with all that is needed given to it. Refused where something would become longer than it may be. */
export function warped(score: Score, needs: readonly Need[]): Result<Routine> {
  const warp = new Warp(score, needs);
  const { routine } = score;
  const steps: Step[] = [];
  for (const [at, step] of routine.steps.entries()) {
    const { fromMs, arriveMs, toMs } = score.spans[at] as Score["spans"][number];
    const next = stretchedStep(step, {
      factor: warp.factorOf(fromMs, arriveMs),
      restMs: warp.lengthOf(arriveMs, toMs),
    });
    if (!next) return problem(`Step ${at + 1} of ${routine.name} would have to take longer than an hour.`);
    steps.push(next);
  }
  const lanes = routine.lanes.map(
    (lane): Lane => ({ ...lane, keys: lane.keys.map((key) => ({ ...key, atMs: warp.at(key.atMs) })) }),
  );
  const clips = routine.clips.map((clip): Clip => {
    const factor = warp.factorOf(clip.atMs, endOfClip(clip));
    const [fadeInMs, fadeOutMs] = [clip.fadeInMs * factor, clip.fadeOutMs * factor];
    return { ...clip, atMs: warp.at(clip.atMs), stretch: clip.stretch * factor, fadeInMs, fadeOutMs };
  });
  const slowest = clips.find((clip) => clip.stretch > slowestStretch);
  if (slowest)
    return problem(`A clip of ${routine.name} would have to be played more than ${slowestStretch} times as slowly.`);
  if (lanes.some((lane) => (lane.keys.at(-1)?.atMs ?? 0) > 24 * longestStepMs))
    return problem(`${routine.name} would take longer than a day.`);
  return ok({ ...routine, steps, lanes, clips });
}

/** How slowly a clip may be played (see `clipSchema`). */
const slowestStretch = 20;
