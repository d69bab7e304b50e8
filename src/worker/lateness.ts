const kept = 500;
const sortEvery = 20;

/** How late the ticks of the bench come: the last one, and what 99 of 100 of the last 500 stay under. */
export class Lateness {
  lastMs = 0;
  late99Ms = 0;
  medianMs = 0;
  readonly #all = new Float64Array(kept);
  readonly #sorted = new Float64Array(kept);
  #count = 0;

  /** Takes the lateness of one tick in ms; one that came early was not late. The first tick has no plan: NaN. */
  add(lateMs: number): void {
    if (Number.isNaN(lateMs)) return;
    this.lastMs = Math.max(lateMs, 0);
    this.#all[this.#count % kept] = this.lastMs;
    this.#count += 1;
    if (this.#count % sortEvery !== 0) return;
    const filled = Math.min(this.#count, kept);
    this.#sorted.fill(Number.POSITIVE_INFINITY);
    this.#sorted.set(this.#all.subarray(0, filled));
    this.#sorted.sort();
    this.medianMs = this.#sorted[Math.floor(filled / 2)] as number;
    this.late99Ms = this.#sorted[Math.ceil(filled * 0.99) - 1] as number;
  }
}
