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

  /** How far it turns the joint between two moments by what it plays and by being faded; `below` is where the joint is without it. */
  shareOf(fromMs: number, toMs: number, below: number): ClipShare {
    const clip = this.#clip;
    const ownAt = (ms: number) => this.#sampleAt(clip.fromMs + (ms - clip.atMs) / clip.stretch);
    const atMs = (fromMs + toMs) / 2;
    const weight = this.#weightAt(atMs);
    const fades = this.#weightAt(Math.min(toMs, this.toMs)) - this.#weightAt(Math.max(fromMs, this.fromMs));
    const apart = clip.mode === "add" ? ownAt(atMs) - this.#sampleAt(clip.fromMs) : ownAt(atMs) - below;
    return {
      id: clip.id,
      own: Math.abs(ownAt(toMs) - ownAt(fromMs)) * weight,
      fade: Math.abs(fades * apart),
      fading: atMs - this.fromMs < clip.fadeInMs ? "in" : "out",
      letsThrough: clip.mode === "add" ? 1 : 1 - weight,
    };
  }

  /** See `Track.momentsBetween`. */
  addMoments(gridMs: number, moments: number[]): void {
    const { fromMs, toMs } = this;
    const { fadeInMs, fadeOutMs, stretch } = this.#clip;
    moments.push(fromMs, toMs);
    for (const share of [0.25, 0.5, 0.75, 1]) {
      if (fadeInMs > 0 && fadeInMs < 4 * gridMs) moments.push(Math.min(fromMs + share * fadeInMs, toMs));
      if (fadeOutMs > 0 && fadeOutMs < 4 * gridMs) moments.push(Math.max(toMs - share * fadeOutMs, fromMs));
    }
    const frameMs = this.#frameMs * stretch;
    if (frameMs >= gridMs) return;
    const firstMs = (Math.ceil(this.#clip.fromMs / this.#frameMs) * this.#frameMs - this.#clip.fromMs) * stretch;
    for (let ms = fromMs + firstMs; ms < toMs; ms += frameMs) moments.push(ms);
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

/** What a clip has to do with a change; see `Track.sharesOf`. */
export interface ClipShare {
  readonly id: string;
  own: number;
  fade: number;
  readonly fading: "in" | "out";
  /** How much of what lies below is seen through it. */
  readonly letsThrough: number;
}
