/** What was recorded: for each joint one target a frame. */
export interface Recorded {
  readonly jointIds: readonly string[];
  readonly frameMs: number;
  /** Where on the time of the routine it begins. */
  readonly fromMs: number;
  readonly channels: readonly Float32Array[];
}

/**
 * Writes down what joints were let do, in even frames: ticks come when boards need them, and what lies between two of them is taken from the
 * straight line between. Time begins at 0 and may stand still, never run back.
 */
export class Recorder {
  readonly jointIds: readonly string[];
  readonly fromMs: number;
  readonly #frameMs: number;
  readonly #longestFrames: number;
  #channels: Float32Array[];
  #before: Float64Array;
  #beforeMs = Number.NaN;
  #frames = 0;

  constructor(jointIds: readonly string[], fromMs: number, frameMs: number, longestFrames: number) {
    this.jointIds = jointIds;
    this.fromMs = fromMs;
    this.#frameMs = frameMs;
    this.#longestFrames = longestFrames;
    this.#channels = jointIds.map(() => new Float32Array(1024));
    this.#before = new Float64Array(jointIds.length);
  }

  /** How long it is so far, in ms. */
  get lengthMs(): number {
    return Math.max(0, this.#frames - 1) * this.#frameMs;
  }

  get isFull(): boolean {
    return this.#frames >= this.#longestFrames;
  }

  /** Takes what the joints were let do at a moment, `targets` in the order of `jointIds`. */
  take(atMs: number, targets: ArrayLike<number>): void {
    const isFirst = Number.isNaN(this.#beforeMs);
    const spanMs = atMs - this.#beforeMs;
    for (; this.#frames * this.#frameMs <= atMs && !this.isFull; this.#frames += 1) {
      const share = isFirst || spanMs <= 0 ? 1 : (this.#frames * this.#frameMs - this.#beforeMs) / spanMs;
      if (this.#frames === this.#channels[0]?.length) this.#grow();
      for (let at = 0; at < this.#channels.length; at += 1) {
        const to = targets[at] as number;
        const from = isFirst ? to : (this.#before[at] as number);
        (this.#channels[at] as Float32Array)[this.#frames] = from + (to - from) * Math.max(0, Math.min(1, share));
      }
    }
    for (let at = 0; at < this.#before.length; at += 1) this.#before[at] = targets[at] as number;
    this.#beforeMs = atMs;
  }

  /** What was recorded; null where not even one frame was. */
  finish(): Recorded | null {
    if (this.#frames === 0) return null;
    return {
      jointIds: this.jointIds,
      frameMs: this.#frameMs,
      fromMs: this.fromMs,
      channels: this.#channels.map((channel) => channel.slice(0, this.#frames)),
    };
  }

  #grow(): void {
    this.#channels = this.#channels.map((channel) => {
      const longer = new Float32Array(channel.length * 2);
      longer.set(channel);
      return longer;
    });
  }
}
