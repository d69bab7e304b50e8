/** So many questions are remembered: the quickest of them says most. */
const remembered = 16;
/** Clocks drift by less than that between two questions. */
const leapMs = 5;

interface Sample {
  readonly roundTripMs: number;
  readonly offsetMs: number;
}

/**
 * What another machine's clock shows at a moment of ours, from questions that it answered with its time. Of the last questions the one that came back
 * soonest counts: it is off by no more than half of its way there and back (the rule of the Network Time Protocol, RFC 5905).
 */
export class ClockSync {
  #samples: Sample[] = [];
  #best: Sample | null = null;

  /** A question was sent, answered with the far time, and the answer came back. A round trip that is no time is left out. */
  add(sentMs: number, farMs: number, backMs: number): void {
    const roundTripMs = backMs - sentMs;
    if (!(roundTripMs >= 0) || !Number.isFinite(farMs)) return;
    const sample = { roundTripMs, offsetMs: farMs - (sentMs + backMs) / 2 };
    // Both cannot be true of one clock: it was set, or stood still while its machine slept. What was known of it is worth nothing.
    if (
      this.#best &&
      Math.abs(sample.offsetMs - this.#best.offsetMs) > (roundTripMs + this.#best.roundTripMs) / 2 + leapMs
    )
      this.#samples = [];
    this.#samples.push(sample);
    if (this.#samples.length > remembered) this.#samples.shift();
    this.#best = this.#samples.reduce((best, one) => (one.roundTripMs < best.roundTripMs ? one : best));
  }

  get isKnown(): boolean {
    return this.#best !== null;
  }

  /** The quickest way there and back of the last questions, in ms; NaN before the first. */
  get roundTripMs(): number {
    return this.#best?.roundTripMs ?? Number.NaN;
  }

  /** A far moment on our own clock, in ms; NaN while nothing is known. */
  toOurs(farMs: number): number {
    return farMs - (this.#best?.offsetMs ?? Number.NaN);
  }
}
