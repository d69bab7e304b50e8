import { hermite, monotoneSlopes } from "@core/easings";
import type { Lane } from "@core/project";
import type { Cover } from "./cover";
import { lastAtMost } from "./lastAtMost";

const shapeCodes = { line: 0, smooth: 1, step: 2 } as const;

/** The keys of a lane as numbers in a row, ready to be read. */
export class LaneCurve {
  readonly moments: Float64Array;
  readonly #targets: Float64Array;
  readonly #shapes: Uint8Array;
  readonly #slopes: Float64Array;
  readonly isAdd: boolean;
  #near = 0;

  constructor(lane: Pick<Lane, "mode" | "keys">) {
    this.moments = Float64Array.from(lane.keys, (key) => key.atMs);
    this.#targets = Float64Array.from(lane.keys, (key) => key.target);
    this.#shapes = Uint8Array.from(lane.keys, (key) => shapeCodes[key.shape]);
    this.#slopes = lane.keys.some((key) => key.shape === "smooth")
      ? monotoneSlopes(this.moments, this.#targets)
      : new Float64Array(0);
    this.isAdd = lane.mode === "add";
  }

  get cover(): Cover | null {
    const last = this.moments.length - 1;
    if (this.isAdd || last < 0) return null;
    return {
      fromMs: this.moments[0] as number,
      toMs: this.moments[last] as number,
      first: this.#targets[0] as number,
      last: this.#targets[last] as number,
    };
  }

  /** What is asked with the lane laid over `value`. Outside its keys it changes nothing. */
  over(value: number, atMs: number): number {
    const { moments } = this;
    const last = moments.length - 1;
    if (last < 0 || atMs < (moments[0] as number) || atMs > (moments[last] as number)) return value;
    const own = this.#at(atMs, last);
    return this.isAdd ? value + own : own;
  }

  #at(atMs: number, last: number): number {
    const { moments } = this;
    let at = this.#near;
    if (!(at < last && (moments[at] as number) <= atMs && atMs < (moments[at + 1] as number)))
      at = lastAtMost(moments, atMs);
    this.#near = at;
    const target = this.#targets[at] as number;
    if (at === last || this.#shapes[at] === shapeCodes.step) return target;
    const fromMs = moments[at] as number;
    const widthMs = (moments[at + 1] as number) - fromMs;
    const share = (atMs - fromMs) / widthMs;
    const next = this.#targets[at + 1] as number;
    return this.#shapes[at] === shapeCodes.line
      ? target + (next - target) * share
      : hermite(target, this.#slopes[at] as number, next, this.#slopes[at + 1] as number, widthMs, share);
  }
}

export const laneCurve = (lane: Lane | undefined): LaneCurve | null =>
  lane && lane.keys.length > 0 ? new LaneCurve(lane) : null;
