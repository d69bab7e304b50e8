import { eased } from "./easing";
import type { Plan, PlannedMove } from "./plan";

/**
 * Plays a plan: at every advance it writes the wished targets of the joints of the current move.
 * It has no clock; time is handed in. A stop leaves the wishes as they were last written.
 */
export class RoutinePlayer {
  plan: Plan | null = null;
  moveIndex = 0;
  /** Time since the current move began, its hold included. */
  elapsedMs = 0;
  /** Rounds that were completed. */
  rounds = 0;
  readonly #wishes: Float64Array;
  #from: number[] = [];

  /** `wishes` holds the wished target of every joint; moves begin where it stands. */
  constructor(wishes: Float64Array) {
    this.#wishes = wishes;
  }

  start(plan: Plan): void {
    this.plan = plan;
    this.rounds = 0;
    this.#enter(0, 0);
  }

  stop(): void {
    this.plan = null;
  }

  /** Goes on with a changed plan at the same move, or stops when that move is gone. */
  replan(plan: Plan): void {
    const playing = this.plan?.moves[this.moveIndex];
    const at = plan.moves.findIndex((move) => move.stepId === playing?.stepId);
    const move = plan.moves[at];
    if (!playing || !move) {
      this.stop();
      return;
    }
    const elapsedMs = Math.min(this.elapsedMs, move.moveMs + move.holdMs);
    const isSameAim = move.joints.join() === playing.joints.join();
    this.plan = plan;
    this.moveIndex = at;
    // Other joints begin where they stand; a change of times or targets keeps the beginning of the move.
    if (isSameAim) this.elapsedMs = elapsedMs;
    else this.#enter(at, 0);
  }

  /** Lets time pass. `mine(joint)` tells whether the player still has that joint. */
  advance(dtMs: number, mine: (joint: number) => boolean): void {
    let plan = this.plan;
    if (!plan) return;
    this.elapsedMs += dtMs;
    // A round of moves that last no time at all must not turn for ever within one tick.
    for (let passed = 0; passed <= plan.moves.length; passed += 1) {
      const move = plan.moves[this.moveIndex];
      if (!move) {
        this.stop();
        return;
      }
      this.#write(move, mine);
      const lengthMs = move.moveMs + move.holdMs;
      if (this.elapsedMs < lengthMs) return;
      this.#leave(plan, this.elapsedMs - lengthMs);
      plan = this.plan;
      if (!plan) return;
    }
  }

  #leave(plan: Plan, leftMs: number): void {
    const isLast = this.moveIndex + 1 >= plan.moves.length;
    if (isLast) {
      this.rounds += 1;
      if (!plan.isLooped) {
        this.stop();
        return;
      }
    }
    this.#enter(isLast ? 0 : this.moveIndex + 1, leftMs);
  }

  #enter(moveIndex: number, elapsedMs: number): void {
    this.moveIndex = moveIndex;
    this.elapsedMs = elapsedMs;
    this.#from = (this.plan?.moves[moveIndex]?.joints ?? []).map((joint) => this.#wishes[joint] as number);
  }

  #write(move: PlannedMove, mine: (joint: number) => boolean): void {
    const share = move.moveMs > 0 ? eased(move.easing, this.elapsedMs / move.moveMs) : 1;
    for (let at = 0; at < move.joints.length; at += 1) {
      const joint = move.joints[at] as number;
      if (!mine(joint)) continue;
      const from = this.#from[at] as number;
      const to = move.targets[at] as number;
      // At the end the target itself, not a sum that may miss it by a rounding.
      this.#wishes[joint] = share === 1 ? to : from + (to - from) * share;
    }
  }
}
