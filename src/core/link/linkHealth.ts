/** How a link has done lately. */
export interface LinkHealthReport {
  /** Frames that the board took in the last whole second. */
  readonly framesPerS: number;
  /** From a line to its answer, in ms: the median and 99 of 100 of the last; NaN while none is known. */
  readonly answerMs: number;
  readonly answer99Ms: number;
  /** Lines that the board refused, and frames that it never answered, since the link was made. */
  readonly refused: number;
  readonly lost: number;
  /** How often it was met again: it was reset, or its cable was out. */
  readonly resets: number;
  /** How long answers are given because an adapter holds bytes back; missing where none does. */
  readonly heldBackMs?: number;
  /** Of the last sixty seconds, oldest first: frames that the board took in each, and those lost. */
  readonly taken: readonly number[];
  readonly missing: readonly number[];
}

const seconds = 60;
const answersKept = 500;

/** Counts what a link does, second by second. It allocates nothing while it counts. */
export class LinkHealth {
  readonly #taken = new Uint16Array(seconds);
  readonly #missing = new Uint16Array(seconds);
  readonly #answersMs = new Float64Array(answersKept);
  #answers = 0;
  #second = Number.NaN;
  #refused = 0;
  #lost = 0;
  #met = 0;

  /** A frame was taken, so long after it had been sent. */
  took(answerMs: number, nowMs: number): void {
    this.#turnTo(nowMs);
    this.#answersMs[this.#answers % answersKept] = answerMs;
    this.#answers += 1;
    this.#count(this.#taken);
  }

  /** Frames on their way that no answer will come to any more. */
  lose(frames: number, nowMs: number): void {
    this.#turnTo(nowMs);
    this.#lost += frames;
    for (let one = 0; one < frames; one += 1) this.#count(this.#missing);
  }

  refuse(): void {
    this.#refused += 1;
  }

  meet(): void {
    this.#met += 1;
  }

  report(nowMs: number): LinkHealthReport {
    this.#turnTo(nowMs);
    const sorted = this.#answersMs.slice(0, Math.min(this.#answers, answersKept)).sort();
    const at = (share: number) => sorted[Math.floor(share * (sorted.length - 1))] ?? Number.NaN;
    const inOrder = (ring: Uint16Array) =>
      Array.from(ring, (_, place) => ring[(this.#second + 1 + place) % seconds] as number);
    const taken = inOrder(this.#taken);
    return {
      // The second that runs is not over yet.
      framesPerS: taken.at(-2) ?? 0,
      answerMs: at(0.5),
      answer99Ms: at(0.99),
      refused: this.#refused,
      lost: this.#lost,
      resets: Math.max(0, this.#met - 1),
      taken,
      missing: inOrder(this.#missing),
    };
  }

  #count(ring: Uint16Array): void {
    const place = this.#second % seconds;
    ring[place] = (ring[place] as number) + 1;
  }

  /** Seconds that have passed meanwhile begin empty. */
  #turnTo(nowMs: number): void {
    const second = Math.floor(nowMs / 1000);
    const from = Number.isNaN(this.#second) ? second - seconds : this.#second;
    for (let one = Math.max(from + 1, second - seconds + 1); one <= second; one += 1) {
      this.#taken[one % seconds] = 0;
      this.#missing[one % seconds] = 0;
    }
    this.#second = Math.max(second, Number.isNaN(this.#second) ? second : this.#second);
  }
}
