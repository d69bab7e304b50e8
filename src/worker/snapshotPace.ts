import type { Bench } from "./bench";

/** A bench at rest shows itself this often: enough for what creeps, and next to nothing for the page. */
const restEveryMs = 200;
/** So long after something moved the bench is still shown at every tick. */
const wakeMs = 400;

/** How often the page is shown the live state: at every tick while something moves, seldom while all rests. */
export class SnapshotPace {
  /** Somebody looks at what goes on by itself. */
  isEveryTick = false;
  #shownMs = Number.NEGATIVE_INFINITY;
  #movedMs = Number.NEGATIVE_INFINITY;
  #movements = -1;

  isDue(nowMs: number, { movements }: Pick<Bench, "movements">): boolean {
    if (movements !== this.#movements) {
      this.#movements = movements;
      this.#movedMs = nowMs;
    }
    const isAwake = this.isEveryTick || nowMs - this.#movedMs < wakeMs || nowMs < this.#shownMs;
    if (!isAwake && nowMs - this.#shownMs < restEveryMs) return false;
    this.#shownMs = nowMs;
    return true;
  }
}
