/** Lets through so many in a second, and a few more at once; what goes past that is not let through. */
export class Bucket {
  readonly #perS: number;
  readonly #burst: number;
  #left: number;
  #atMs = Number.NaN;

  constructor(perS: number, burst: number) {
    this.#perS = perS;
    this.#burst = burst;
    this.#left = burst;
  }

  /** Whether one more may pass now; it takes its place. */
  take(nowMs: number): boolean {
    if (!this.hasRoom(nowMs)) return false;
    this.#left -= 1;
    return true;
  }

  /** Whether one more could pass now. */
  hasRoom(nowMs: number): boolean {
    // A clock that was set back fills nothing.
    const passedMs = Number.isNaN(this.#atMs) ? 0 : Math.max(0, nowMs - this.#atMs);
    this.#atMs = nowMs;
    this.#left = Math.min(this.#burst, this.#left + (passedMs / 1000) * this.#perS);
    return this.#left >= 1;
  }
}
