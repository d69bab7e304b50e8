import { heldSteps, learnSteps, lineOf, type SurveySample, SurveyWay } from "./surveyWay";

/**
 * The automatic run for a servo that can be read: goes to the middle, steps outward until the reading no longer follows, turns back at
 * once, does the same the other way, and then reads a row of places from below. It has no clock and no wire: each step is handed the time,
 * the latest reading and what the gate let through, and gives the set point to send. It waits for the gate and for the servo: a place is read when the
 * signal is there and the reading has come to rest. It never leaps: every long way is glided, also the last one.
 */
export interface SurveyAsk {
  readonly centre: number;
  readonly window: { readonly low: number; readonly high: number };
  /** A step outward; wider than the servo's deadband, or it would not notice. */
  readonly step: number;
  /** The fastest set points per second on long ways, so that the horn is never flung. */
  readonly glidePerS: number;
}

/** What the gate has let through for the joint; NaN for nothing. */
export interface Passed {
  /** How far it has let the joint go: the set point before the board's rounding. */
  readonly setPoint: number;
  /** What the board makes of that. */
  readonly sent: number;
}

export interface SurveyReport {
  readonly phase: "centre" | "upper" | "lower" | "reading" | "done" | "ended";
  /** 0…1, roughly. */
  readonly progress: number;
  /** Every place where it waited and read, in the order of the run. */
  readonly outward: readonly SurveySample[];
  /** The places of the last pass, from below: what a curve is laid through. */
  readonly places: readonly SurveySample[];
  /** The last set points that still moved the horn; null until found. `isFree` says that the window ended first. */
  readonly low: Stop | null;
  readonly high: Stop | null;
  readonly restMa: number;
  readonly highestMa: number;
  /** Why it ended early; empty where it did not. */
  readonly problem: string;
}

interface Stop {
  readonly setPoint: number;
  readonly isFree: boolean;
}

/** Waiting at each step outward: some frames for the servo, some for its answer. */
const dwellMs = 80;
/** At the first steps it waits for longer, to see how late a reading comes: over a wire, by way of a server, or from a board that asks seldom. */
const learnDwellMs = 480;
/** A step that moved the reading by less than so many times its noise shows nothing of that: the servo may not have noticed it. */
const learnedOver = 3;
/** Whether a reading has come to rest is seen by comparing its means over so long: */
const sliceMs = 40;
/** with the mean so many before it, after a step; */
const shortRest = 2;
/** and after a long way, or after some steps, so that a slow servo never falls behind by more than those. */
const longRest = 12;
const stepsBetweenRests = 8;
/** A servo that has not come to rest by then is read as it is: after a step, and after a long way. */
const longestRestMs = 2500;
const longestWayMs = 30_000;
/** Moving by less than this share of a step from one mean to the next is rest. */
const restShare = 0.1;
/** What stands still for so long will not come nearer. */
const blockedMs = 500;
/** So long the last way may take before it counts as gone. */
const longestLeavingMs = 10_000;
const placeDwellMs = 350;
const places = 9;
const silentMs = 600;
/** More than this between two steps counts as this much. */
const longestStepMs = 50;
const longestMs = 600_000;

export class Survey {
  readonly #ask: SurveyAsk;
  #phase: SurveyReport["phase"] = "centre";
  #problem = "";
  #setPoint: number;
  #goal: number;
  #arrivedMs = Number.NaN;
  #startedMs = Number.NaN;
  #lastMs = Number.NaN;
  /** Time as far as it was seen to go: what a computer slept through is no time in which a servo was looked at. */
  #clockMs = 0;
  #heardMs = 0;
  #restMa = Number.NaN;
  #highestMa = 0;
  /** How it ends once its last way is gone; null while it runs. */
  #ending: "done" | "ended" | null = null;
  #leavingMs = 0;
  /** Where the gate last let it go, and since when it has not gone further. */
  #passed = Number.NaN;
  #stillSinceMs = Number.NaN;
  /** Readings of the slice of time that runs, and the means of those before. */
  #slice = { fromMs: 0, sum: 0, sumMa: 0, count: 0, low: 0, high: 0 };
  #means: number[] = [];
  /** How long after a step its reading was half-way there, at most, at the steps where that was waited for. */
  #latestMs = 0;
  /** How far readings of a servo at rest lie apart. */
  #noise = 0.5;
  readonly #outward: SurveySample[] = [];
  /** Samples of the way that is being searched. */
  #way: SurveyWay;
  readonly #places: SurveySample[] = [];
  #low: Stop | null = null;
  #high: Stop | null = null;

  /** `from` is the set point at which the servo stands now. */
  constructor(ask: SurveyAsk, from: number) {
    this.#ask = ask;
    this.#way = new SurveyWay(ask.step, Number.NaN);
    this.#setPoint = from;
    this.#goal = ask.centre;
  }

  get isOver(): boolean {
    return this.#phase === "done" || this.#phase === "ended";
  }

  get report(): SurveyReport {
    const done = this.#places.length / places;
    const half = Math.min(1, Math.abs(this.#setPoint - this.#ask.centre) / (this.#ask.window.high - this.#ask.centre));
    const progress = {
      centre: 0,
      upper: 0.4 * half,
      lower: 0.4 + 0.4 * half,
      reading: 0.8 + 0.2 * done,
      done: 1,
      ended: 1,
    };
    return {
      phase: this.#phase,
      progress: progress[this.#phase],
      outward: this.#outward,
      places: this.#places,
      low: this.#low,
      high: this.#high,
      restMa: this.#restMa,
      highestMa: this.#highestMa,
      problem: this.#problem,
    };
  }

  /** Ends it early: the servo is to go back towards the middle, softly, and what was found so far stays. */
  end(why: string): void {
    if (this.isOver || this.#ending) return;
    this.#problem = why;
    this.#leave("ended", this.#retreat());
  }

  /** It is over, and sends nothing more: the joint is in other hands. */
  abandon(why: string): void {
    if (this.isOver) return;
    this.#problem ||= why;
    this.#phase = "ended";
  }

  #leave(how: "done" | "ended", goal: number): void {
    this.#ending = how;
    this.#goal = goal;
    this.#leavingMs = 0;
  }

  /** Lets time pass. Gives the set point to send now. */
  step(nowMs: number, reading: number, currentMa: number, passed: Passed): number {
    if (Number.isNaN(this.#startedMs)) {
      this.#startedMs = nowMs;
      this.#lastMs = nowMs;
    }
    const dtMs = Math.min(Math.max(nowMs - this.#lastMs, 0), longestStepMs);
    this.#lastMs = nowMs;
    this.#clockMs += dtMs;
    if (this.isOver) return this.#setPoint;
    if (this.#ending) {
      this.#leavingMs += dtMs;
      if (this.#setPoint !== this.#goal) this.#glide(dtMs);
      else if (this.#isThere(passed) || this.#leavingMs > longestLeavingMs) this.#phase = this.#ending;
      return this.#setPoint;
    }
    if (!Number.isNaN(reading)) this.#heardMs = this.#clockMs;
    if (currentMa > this.#highestMa) this.#highestMa = currentMa;
    if (this.#clockMs - this.#heardMs > silentMs)
      this.end("The servo stopped answering. See to its feedback, then start again.");
    else if (nowMs - this.#startedMs > longestMs)
      this.end("It took longer than ten minutes; something is wrong with its feedback.");
    else if (this.#setPoint !== this.#goal) this.#glide(dtMs);
    else if (this.#isThere(passed)) this.#wait(reading, currentMa, passed.sent);
    return this.#setPoint;
  }

  /** Whether the gate has let the joint go as far as was asked, or lets it go no further. */
  #isThere({ setPoint }: Passed): boolean {
    if (setPoint !== this.#passed) {
      this.#passed = setPoint;
      this.#stillSinceMs = this.#clockMs;
    }
    return Math.abs(setPoint - this.#setPoint) <= this.#ask.step / 4 || this.#clockMs - this.#stillSinceMs > blockedMs;
  }

  #glide(dtMs: number): void {
    const most = (this.#ask.glidePerS * dtMs) / 1000;
    const gap = this.#goal - this.#setPoint;
    this.#setPoint = Math.abs(gap) <= most ? this.#goal : this.#setPoint + Math.sign(gap) * most;
    this.#arrivedMs = Number.NaN;
  }

  /** Stands at a place for its time, and until its reading has come to rest; keeps the mean of the last slice of it, and goes on. */
  #wait(reading: number, currentMa: number, sent: number): void {
    if (Number.isNaN(this.#arrivedMs)) {
      this.#arrivedMs = this.#clockMs;
      this.#means = [];
      this.#beginSlice();
    }
    const slice = this.#slice;
    if (!Number.isNaN(reading)) {
      slice.low = Math.min(slice.low, reading);
      slice.high = Math.max(slice.high, reading);
      slice.sum += reading;
      slice.sumMa += Number.isNaN(currentMa) ? 0 : currentMa;
      slice.count += 1;
    }
    if (this.#clockMs - slice.fromMs < sliceMs || slice.count === 0) return;
    const isOut = this.#phase === "upper" || this.#phase === "lower";
    const isStep = isOut && this.#way.length > 0;
    const isLearning = isStep && this.#outward.length <= learnSteps;
    const stepMs = isLearning ? learnDwellMs : Math.max(dwellMs, 1.25 * this.#latestMs);
    const neededMs = isStep ? stepMs : Math.max(placeDwellMs * (this.#phase === "centre" ? 3 : 1), stepMs);
    const waitedMs = this.#clockMs - this.#arrivedMs;
    const mean = slice.sum / slice.count;
    // A servo that goes on turning moves on from slice to slice by as much as within one.
    const still = this.#phase === "centre" ? slice.high - slice.low + 1 : this.#stillUpTo();
    const back = isStep && this.#way.length % stepsBetweenRests > 0 ? shortRest : longRest;
    const isAtRest =
      Math.abs(mean - (this.#means.at(-back) ?? Number.NaN)) <= still ||
      waitedMs > (isStep ? longestRestMs : longestWayMs);
    if (waitedMs >= neededMs && isAtRest) {
      if (this.#phase === "centre") this.#noise = Math.max(0.5, slice.high - slice.low);
      if (isLearning) this.#learn(mean);
      this.#arrivedMs = Number.NaN;
      this.#take({ setPoint: sent, reading: mean, currentMa: slice.sumMa / slice.count });
      return;
    }
    this.#means.push(mean);
    this.#beginSlice();
  }

  /** Keeps when the reading had half of its way from the place before behind it, where that way is more than noise. */
  #learn(last: number): void {
    const way = Math.abs(last - (this.#outward.at(-1)?.reading ?? last));
    if (way <= learnedOver * this.#noise) return;
    const before = this.#means.findLastIndex((mean) => Math.abs(mean - last) > way / 2);
    this.#latestMs = Math.max(this.#latestMs, (before + 1) * sliceMs);
  }

  #beginSlice(): void {
    const [low, high] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
    this.#slice = { fromMs: this.#clockMs, sum: 0, sumMa: 0, count: 0, low, high };
  }

  /** By how much the mean of a reading may differ from the one before and still be at rest. */
  #stillUpTo(): number {
    const gain = this.#outward.length >= learnSteps ? Math.abs(lineOf(this.#outward).slope) : 0;
    return Math.max(this.#noise, restShare * gain * this.#ask.step);
  }

  #take(sample: SurveySample): void {
    switch (this.#phase) {
      case "centre":
        this.#restMa = sample.currentMa;
        this.#phase = "upper";
        this.#way = new SurveyWay(this.#ask.step, this.#restMa);
        return;
      case "upper":
      case "lower":
        this.#outward.push(sample);
        this.#way.add(sample);
        this.#outwardOn(this.#phase === "upper" ? 1 : -1);
        return;
      case "reading":
        if (this.#setPoint !== this.#runUp()) this.#places.push(sample);
        this.#nextPlace();
        return;
    }
  }

  #outwardOn(way: 1 | -1): void {
    const { window, step } = this.#ask;
    const isHeld = this.#way.isHeld || this.#way.isPressing;
    const bound = way > 0 ? window.high : window.low;
    if (!isHeld && this.#way.isDumb) {
      this.end("The reading does not change while the servo turns. Is the feedback wired to this channel?");
      return;
    }
    if (!isHeld && this.#setPoint !== bound) {
      const next = this.#setPoint + way * step;
      this.#goal = way * (next - bound) > 0 ? bound : next;
      // A step is a step, not a glide: its dwell is what keeps it gentle.
      this.#setPoint = this.#goal;
      return;
    }
    const stop: Stop = isHeld ? { setPoint: this.#way.stop(way), isFree: false } : { setPoint: bound, isFree: true };
    this.#goal = this.#ask.centre;
    this.#way = new SurveyWay(this.#ask.step, this.#restMa);
    if (way > 0) {
      this.#high = stop;
      this.#phase = "lower";
    } else {
      this.#low = stop;
      this.#phase = "reading";
      this.#goal = this.#runUp();
    }
  }

  /** Well back from where it stands, towards the middle. */
  #retreat(): number {
    const { centre, step } = this.#ask;
    const back = (heldSteps + 4) * step;
    const gap = this.#setPoint - centre;
    return Math.abs(gap) <= back ? centre : this.#setPoint - Math.sign(gap) * back;
  }

  /** A little below the first place, so that all places are come to from below. */
  #runUp(): number {
    return this.#placeAt(0) - 2 * this.#ask.step;
  }

  #placeAt(index: number): number {
    const low = (this.#low?.setPoint ?? 0) + 4 * this.#ask.step;
    const high = (this.#high?.setPoint ?? 0) - 2 * this.#ask.step;
    return low + ((high - low) * index) / (places - 1);
  }

  #nextPlace(): void {
    if (this.#places.length < places) {
      this.#goal = this.#placeAt(this.#places.length);
      return;
    }
    this.#leave("done", this.#ask.centre);
  }
}
