import { leastJerkCurve } from "@core/easings";
import type { StepOf } from "@core/steps";
import { roundMs, type Score, stepAt } from "./score";

/** What the player is at. The numbers travel in the live snapshot. */
export const phase = { idle: 0, leadIn: 1, playing: 2, waiting: 3, paused: 4 } as const;
export type Phase = (typeof phase)[keyof typeof phase];

/** A part of a routine that is played over and over, in ms. */
export interface LoopRange {
  readonly fromMs: number;
  readonly toMs: number;
}

export interface PlayFrom {
  readonly fromMs: number;
  /** Goes there, and stands still. */
  readonly isPaused: boolean;
  /** At the end its time runs on, and its joints stay: something is being recorded. */
  readonly isOpenEnded: boolean;
  /** Begins from wherever its joints stand, however far that is: a move that was asked for just now. */
  readonly isFromHere: boolean;
}

/** What the player asks of whoever drives it. */
export interface Company {
  /** Whether the player still has that joint. */
  readonly mine: (joint: number) => boolean;
  /** Whether what a wait waits for has happened. */
  readonly isMet: (step: StepOf<"wait">) => boolean;
  /** Time runs over a cue. */
  readonly sayCue: (name: string) => void;
}

/** Differences smaller than this need no way to be gone first. */
const closeEnough = 0.05;

/**
 * How long a joint takes to be brought over a way, softly, at a speed that it does not pass: whole ms, so that code in whole numbers, too, begins in the same frame. A
 * thousandth of one above a whole ms is a rounding.
 */
export const leadInMs = (way: number, safePerS: number): number =>
  Math.abs(way) > closeEnough ? Math.ceil((Math.abs(way) * leastJerkPeakRate * 1000) / safePerS - 0.001) : 0;

/** How much faster than its mean the softest curve is at most. */
const leastJerkPeakRate = 1.875;

/**
 * Plays a score: at every advance it writes the wished targets of its joints. It has no clock; time is handed in.
 *
 * Before time runs, and whenever what is wished would jump (another place, another round, a changed routine), its joints first go there:
 * all in the same time, none faster than its safe speed. While it stands still they follow the moment that is shown, no faster than that.
 */
export class RoutinePlayer {
  score: Score | null = null;
  phase: Phase = phase.idle;
  /** The time of the score. */
  atMs = 0;
  /** On the way back of a there-and-back. */
  isReturning = false;
  /** Rounds that were completed. */
  rounds = 0;
  /** How long it has waited, or what is left of the lead-in, in ms. */
  phaseMs = 0;
  /** 1 is as written. */
  speed = 1;
  loop: LoopRange | null = null;
  isOpenEnded = false;
  readonly #wishes: Float64Array;
  #safeSpeeds: Float64Array;
  #fastest: Float64Array;
  #starts: number[] = [];
  #from: number[] = [];
  #leadInMs = 0;
  #afterLeadIn: Phase = phase.playing;
  /** What goes on after a pause: time, or a wait. */
  #afterPause: Phase = phase.playing;
  /** How long the wait that it is in has lasted; a pause does not begin it anew. */
  #waitedMs = 0;
  /** The next halt that time runs into. */
  #nextHalt = 0;

  /**
   * `wishes` holds the wished target of every joint. `safeSpeeds` says how fast each may be brought to a beginning, `fastest` how fast it can
   * turn at all; in targets per second.
   */
  constructor(wishes: Float64Array, safeSpeeds: Float64Array, fastest: Float64Array) {
    this.#wishes = wishes;
    this.#safeSpeeds = safeSpeeds;
    this.#fastest = fastest;
  }

  /** The joints may be brought somewhere at other speeds now: a way that is under way is gone on at those. */
  retune(safeSpeeds: Float64Array, fastest: Float64Array, company: Company): void {
    const isChanged = safeSpeeds.some((speed, at) => speed !== this.#safeSpeeds[at]);
    this.#safeSpeeds = safeSpeeds;
    this.#fastest = fastest;
    if (isChanged && this.phase === phase.leadIn) this.#leadIn(this.#afterLeadIn, company);
  }

  start(score: Score, from: PlayFrom, company: Company): void {
    this.score = score;
    this.rounds = 0;
    this.isOpenEnded = from.isOpenEnded;
    this.#afterPause = phase.playing;
    if (this.loop && this.loop.fromMs >= score.lengthMs) this.loop = null;
    this.#starts = score.tracks.map((track) =>
      from.isFromHere ? (this.#wishes[track.joint] as number) : this.#nearStart(track),
    );
    this.#place(from.fromMs);
    this.#leadIn(from.isPaused ? phase.paused : phase.playing, company);
  }

  stop(): void {
    this.score = null;
    this.phase = phase.idle;
  }

  pause(): void {
    if (this.phase === phase.leadIn && this.#afterLeadIn !== phase.paused) {
      this.#afterPause = this.#afterLeadIn;
      this.#afterLeadIn = phase.paused;
    }
    if (this.phase !== phase.playing && this.phase !== phase.waiting) return;
    this.#afterPause = this.phase;
    this.phase = phase.paused;
  }

  /** Goes on from a pause: joints that were moved meanwhile come back first. */
  resume(company: Company): void {
    if (this.phase === phase.leadIn && this.#afterLeadIn === phase.paused) this.#afterLeadIn = this.#afterPause;
    if (this.phase === phase.paused) this.#leadIn(this.#afterPause, company);
  }

  /** Goes to another moment. What plays goes on from there once its joints have arrived; what stands still follows at once. */
  seek(atMs: number, company: Company): void {
    if (!this.score) return;
    this.#place(atMs);
    // A wait that stood somewhere else is over.
    this.#afterPause = phase.playing;
    if (this.phase === phase.paused) return;
    const isToPause = this.phase === phase.leadIn && this.#afterLeadIn === phase.paused;
    this.#leadIn(isToPause ? phase.paused : phase.playing, company);
  }

  /** To the beginning of the next step, or of this one, or, at its beginning, of the one before. What waits goes on. */
  skip(by: 1 | -1, company: Company): void {
    const { score } = this;
    if (!score) return;
    if (by > 0 && this.phase === phase.waiting) {
      this.#nextHalt += 1;
      this.phase = phase.playing;
      return;
    }
    const at = stepAt(score, this.atMs);
    const here = score.spans[at]?.fromMs ?? 0;
    const moments = score.spans.map((span) => span.fromMs);
    const to =
      by > 0
        ? (moments.find((ms) => ms > this.atMs) ?? score.lengthMs)
        : this.atMs - here > 300
          ? here
          : (moments.findLast((ms) => ms < here) ?? 0);
    this.seek(to, company);
  }

  /** Goes on with a changed score at the same moment. */
  replan(score: Score, company: Company): void {
    if (!this.score) return;
    const { score: old, phase: at } = this;
    const before = new Map(old.tracks.map((track, place) => [track.joint, this.#starts[place]]));
    this.score = score;
    if (this.loop && this.loop.fromMs >= score.lengthMs) this.loop = null;
    this.#starts = score.tracks.map((track) => before.get(track.joint) ?? this.#nearStart(track));
    const stillWaits = this.#findHalt(old, score);
    const onAgain = (then: Phase) => (then === phase.waiting && !stillWaits ? phase.playing : then);
    this.#afterPause = onAgain(this.#afterPause);
    if (at !== phase.paused) this.#leadIn(onAgain(at === phase.leadIn ? this.#afterLeadIn : at), company);
  }

  /** Finds its moment in a changed score: at the halt that it waits for, or at the same time. Says whether that halt is still there. */
  #findHalt(old: Score, score: Score): boolean {
    const { atMs } = this;
    const halt = old.halts[this.#nextHalt];
    const isAtHalt = halt?.atMs === atMs;
    const passed = old.halts.slice(0, this.#nextHalt).filter((one) => one.atMs === atMs);
    // A step within a routine that is played more than once stands there more than once: the nearest is meant.
    const same = score.halts
      .filter((one) => isAtHalt && one.step.id === halt.step.id)
      .sort((a, b) => Math.abs(a.atMs - atMs) - Math.abs(b.atMs - atMs))[0];
    this.#place(same?.atMs ?? atMs, this.isReturning);
    // What was waited for at this moment is not waited for again.
    while (passed.some((one) => one.step.id === score.halts[this.#nextHalt]?.step.id)) this.#nextHalt += 1;
    return same !== undefined;
  }

  /** Lets time pass. */
  advance(dtMs: number, company: Company): void {
    switch (this.phase) {
      case phase.idle:
        return;
      case phase.leadIn:
        this.#leadOn(dtMs, company);
        return;
      case phase.paused:
        this.#follow(dtMs, company);
        return;
      case phase.waiting:
        this.#waitOn(dtMs, company);
        return;
      case phase.playing:
        this.#playOn(dtMs * this.speed, company);
    }
  }

  #playOn(dtMs: number, company: Company): void {
    let leftMs = dtMs;
    // A round that lasts no time must not turn for ever within one tick.
    for (let passed = 0; passed < 50 && this.score && this.phase === phase.playing; passed += 1) {
      leftMs = this.#runOn(leftMs, company);
      if (leftMs <= 0) break;
    }
    if (this.score && (this.phase === phase.playing || this.phase === phase.waiting)) this.#write(company);
  }

  /** Runs to the next halt, the end of the way, or as far as time goes. Gives the time that is left. */
  #runOn(dtMs: number, company: Company): number {
    const score = this.score as Score;
    const loop = this.loop && this.loop.fromMs < score.lengthMs ? this.loop : null;
    if (loop && (this.isReturning || this.atMs > loop.toMs)) {
      // The part lies behind: there first, softly.
      this.#place(loop.fromMs);
      this.#leadIn(phase.playing, company);
      return 0;
    }
    if (this.isReturning) {
      this.atMs -= dtMs;
      if (this.atMs > 0) return 0;
      const overMs = -this.atMs;
      this.atMs = 0;
      this.#endRound(company);
      return overMs;
    }
    const halt = this.isOpenEnded ? undefined : score.halts[this.#nextHalt];
    const endMs = loop ? Math.min(loop.toMs, score.lengthMs) : score.lengthMs;
    const toMs = this.atMs + dtMs;
    if (halt && halt.atMs <= Math.min(toMs, endMs)) {
      this.atMs = halt.atMs;
      if (halt.step.kind === "cue") {
        company.sayCue(halt.step.name);
        this.#nextHalt += 1;
        return toMs - halt.atMs;
      }
      this.phase = phase.waiting;
      this.phaseMs = 0;
      this.#waitedMs = 0;
      return 0;
    }
    if (toMs < endMs || this.isOpenEnded) {
      this.atMs = toMs;
      return 0;
    }
    this.atMs = endMs;
    if (loop) {
      this.rounds += 1;
      this.#write(company);
      this.#place(loop.fromMs);
      this.#leadIn(phase.playing, company);
      return 0;
    }
    if (score.routine.isThereAndBack) this.isReturning = true;
    else this.#endRound(company);
    return toMs - endMs;
  }

  /** One round is over: the next begins where this one ends, or nothing does. */
  #endRound(company: Company): void {
    const score = this.score as Score;
    this.#write(company);
    this.rounds += 1;
    const { repeat } = score.routine;
    if (repeat.kind === "times" && this.rounds >= repeat.times) {
      this.stop();
      return;
    }
    const endMs = this.isReturning ? 0 : score.lengthMs;
    this.#starts = score.tracks.map((track, at) => track.baseAt(endMs, this.#starts[at] as number));
    this.#place(0);
    if (roundMs(score) > 0) this.#leadIn(phase.playing, company);
  }

  #waitOn(dtMs: number, company: Company): void {
    const halt = this.score?.halts[this.#nextHalt];
    this.#waitedMs += dtMs;
    this.phaseMs = this.#waitedMs;
    this.#write(company);
    if (halt?.step.kind !== "wait") {
      this.phase = phase.playing;
      return;
    }
    const { timeoutMs, ifTimeout } = halt.step;
    const isOver = timeoutMs !== null && this.#waitedMs >= timeoutMs;
    if (!company.isMet(halt.step) && !isOver) return;
    if (isOver && !company.isMet(halt.step) && ifTimeout === "stop") {
      this.stop();
      return;
    }
    this.#nextHalt += 1;
    this.phase = phase.playing;
  }

  /** Stands at a moment; halts before it are behind. */
  #place(atMs: number, isReturning = false): void {
    const score = this.score as Score;
    this.atMs = Math.max(0, this.isOpenEnded ? atMs : Math.min(atMs, score.lengthMs));
    this.isReturning = isReturning;
    const next = score.halts.findIndex((halt) => halt.atMs >= this.atMs);
    this.#nextHalt = next < 0 ? score.halts.length : next;
  }

  /** Begins the way to where the score is now; nothing to do where its joints are there. */
  #leadIn(then: Phase, company: Company): void {
    const score = this.score as Score;
    let longestMs = 0;
    this.#from = score.tracks.map((track, at) => {
      const stands = this.#wishes[track.joint] as number;
      const ms = leadInMs(this.#valueAt(at) - stands, this.#safeSpeeds[track.joint] as number);
      if (company.mine(track.joint)) longestMs = Math.max(longestMs, ms);
      return stands;
    });
    this.#leadInMs = longestMs;
    this.phaseMs = this.#leadInMs;
    this.#afterLeadIn = then;
    this.phase = longestMs > 0 ? phase.leadIn : then;
    if (this.phase === phase.waiting) this.phaseMs = this.#waitedMs;
  }

  #leadOn(dtMs: number, company: Company): void {
    const score = this.score as Score;
    this.phaseMs = Math.max(0, this.phaseMs - dtMs);
    const share = this.#leadInMs > 0 ? leastJerkCurve(1 - this.phaseMs / this.#leadInMs) : 1;
    for (const [at, track] of score.tracks.entries()) {
      if (!company.mine(track.joint)) continue;
      const from = this.#from[at] as number;
      const to = this.#valueAt(at);
      this.#wishes[track.joint] = share === 1 ? to : from + (to - from) * share;
    }
    if (this.phaseMs === 0) this.phase = this.#afterLeadIn;
  }

  /** Follows the moment that is shown while time stands still. */
  #follow(dtMs: number, company: Company): void {
    for (const [at, track] of (this.score as Score).tracks.entries()) {
      if (!company.mine(track.joint)) continue;
      const stands = this.#wishes[track.joint] as number;
      const way = this.#valueAt(at) - stands;
      const most = ((this.#safeSpeeds[track.joint] as number) * dtMs) / 1000;
      this.#wishes[track.joint] = stands + Math.max(-most, Math.min(most, way));
    }
  }

  #write(company: Company): void {
    const { tracks } = this.score as Score;
    for (let at = 0; at < tracks.length; at += 1) {
      const joint = tracks[at]?.joint as number;
      if (company.mine(joint)) this.#wishes[joint] = this.#valueAt(at);
    }
  }

  #valueAt(at: number): number {
    const score = this.score as Score;
    const track = score.tracks[at];
    return track ? track.valueAt(Math.min(this.atMs, score.lengthMs), this.#starts[at] as number) : Number.NaN;
  }

  #nearStart(track: Score["tracks"][number]): number {
    return nearStart(track, this.#wishes[track.joint] as number, this.#fastest[track.joint] as number);
  }
}

/**
 * Where a joint is to begin: where it stands, if its first move can be made from there in its time; else as near to that as it can, and the
 * lead-in brings it there. `fastest` is how fast it can turn at all, in targets per second.
 */
export function nearStart({ opening }: Score["tracks"][number], stands: number, fastest: number): number {
  if (!opening) return stands;
  const reach = ((opening.toMs - opening.fromMs) / 1000) * (fastest / opening.peakRate);
  // A move of no time by what has no limit.
  if (Number.isNaN(reach)) return stands;
  return Math.max(opening.to - reach, Math.min(opening.to + reach, stands));
}
