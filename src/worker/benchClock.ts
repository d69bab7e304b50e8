import type { Bench } from "./bench";

const fallbackTickMs = 20;

/**
 * Gives a bench its time: a tick whenever a frame is due, and a moment between two frames whenever a wire has something to do. What arrives on a wire may
 * bring that nearer.
 */
export class BenchClock {
  readonly #bench: Bench;
  readonly #step: (nowMs: number) => void;
  #timer: ReturnType<typeof setTimeout> | undefined;
  #isOver = false;

  /** @param step lets one tick pass, and does what else is done then */
  constructor(bench: Bench, step: (nowMs: number) => void = (nowMs) => bench.tick(nowMs)) {
    this.#bench = bench;
    this.#step = step;
    bench.onStirred = () => this.#schedule();
  }

  start(): void {
    const nowMs = performance.now();
    try {
      if (nowMs >= this.#bench.nextTickMs || Number.isNaN(this.#bench.nextTickMs)) this.#step(nowMs);
      else this.#bench.wake(nowMs);
    } finally {
      // Whatever went wrong, the next frame comes.
      this.#schedule();
    }
  }

  stop(): void {
    this.#isOver = true;
    clearTimeout(this.#timer);
  }

  #schedule(): void {
    if (this.#isOver) return;
    clearTimeout(this.#timer);
    this.#timer = setTimeout(() => this.start(), this.#restMs());
  }

  /** How long there is nothing to do. A clock that cannot work it out goes on all the same. */
  #restMs(): number {
    try {
      // Rounded up: a timer that fires early would only have to wait again.
      return Math.max(1, Math.ceil(this.#bench.nextWakeMs - performance.now())) || fallbackTickMs;
    } catch {
      return fallbackTickMs;
    }
  }
}
