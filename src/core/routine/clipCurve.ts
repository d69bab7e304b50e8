import type { Clip, Take, TakeData } from "@core/project";
import type { Cover } from "./cover";

/** One joint of a take where it lies in a routine. */
export class ClipCurve {
  readonly fromMs: number;
  readonly toMs: number;
  readonly #clip: Clip;
  readonly #samples: Float32Array;
  readonly #frameMs: number;

  constructor(clip: Clip, take: Take, samples: Float32Array) {
    this.#clip = clip;
    this.#samples = samples;
    this.#frameMs = take.frameMs;
    this.fromMs = clip.atMs;
    this.toMs = clip.atMs + (clip.toMs - clip.fromMs) * clip.stretch;
  }

  get cover(): Cover | null {
    const { mode, fadeInMs, fadeOutMs, fromMs, toMs } = this.#clip;
    if (mode === "add") return null;
    return {
      fromMs: this.fromMs,
      toMs: this.toMs,
      first: fadeInMs > 0 ? null : this.#sampleAt(fromMs),
      last: fadeOutMs > 0 ? null : this.#sampleAt(toMs),
    };
  }

  /** What is asked with the clip laid over `value`: in its place, or on top its movement away from where it began. */
  over(value: number, atMs: number): number {
    if (atMs < this.fromMs || atMs > this.toMs) return value;
    const clip = this.#clip;
    const own = this.#sampleAt(clip.fromMs + (atMs - clip.atMs) / clip.stretch);
    const weight = this.#weightAt(atMs);
    return clip.mode === "add" ? value + weight * (own - this.#sampleAt(clip.fromMs)) : value + weight * (own - value);
  }

  #weightAt(atMs: number): number {
    const { fadeInMs, fadeOutMs } = this.#clip;
    const sinceMs = atMs - this.fromMs;
    const leftMs = this.toMs - atMs;
    const rise = sinceMs < fadeInMs ? sinceMs / fadeInMs : 1;
    const fall = leftMs < fadeOutMs ? leftMs / fadeOutMs : 1;
    const weight = Math.min(rise, fall);
    return weight * weight * (3 - 2 * weight);
  }

  #sampleAt(takeMs: number): number {
    const last = this.#samples.length - 1;
    const place = Math.min(Math.max(takeMs / this.#frameMs, 0), last);
    const at = Math.min(Math.floor(place), last - 1);
    if (at < 0) return this.#samples[0] as number;
    const before = this.#samples[at] as number;
    return before + ((this.#samples[at + 1] as number) - before) * (place - at);
  }
}

/** The clips that lie over a joint; those whose samples are not at hand are left out. */
export const clipCurves = (
  clips: readonly Clip[],
  jointId: string,
  takeOf: (id: string) => { readonly take: Take; readonly data: TakeData | undefined } | undefined,
): ClipCurve[] =>
  clips.flatMap((clip) => {
    if (clip.isMuted || (clip.jointIds && !clip.jointIds.includes(jointId))) return [];
    const found = takeOf(clip.takeId);
    const samples = found?.take.jointIds.includes(jointId) ? found.data?.channels[jointId] : undefined;
    return found && samples ? [new ClipCurve(clip, found.take, samples)] : [];
  });
