import type { Clip, Key, Lane, Take, TakeData } from "@core/project";
import type { Curve } from "./easing";
import { hermite, monotoneSlopes } from "./monotone";

/** A stretch of a joint's time in which the moves have it do something. `from` is null while nothing before has said where it stands. */
export type Piece =
  | {
      readonly kind: "move";
      readonly stepId: string;
      readonly fromMs: number;
      readonly toMs: number;
      readonly from: number | null;
      readonly to: number;
      readonly curve: Curve;
      /** How much faster than its mean the curve is at most. */
      readonly peakRate: number;
    }
  | {
      readonly kind: "nested";
      readonly fromMs: number;
      readonly toMs: number;
      readonly from: number | null;
      readonly track: Track;
      /** One way of the routine within. */
      readonly lengthMs: number;
      readonly isThereAndBack: boolean;
    };

/**
 * What one joint is asked for over the time of a routine: its moves, then the keys of its lane in their place or on top, then clips, the later
 * above the earlier. A pure function of time and of where the joint stood when the routine began. Times in ms, targets in degrees or spin.
 */
export class Track {
  /** The joint's place in the project. */
  readonly joint: number;
  readonly #pieces: readonly Piece[];
  readonly #lane: LaneCurve | null;
  readonly #clips: readonly ClipCurve[];
  /** What takes the moves' place for a while, in the order of its end. */
  readonly #covers: readonly Cover[];
  /** When each piece begins. */
  readonly #begins: Float64Array;
  /** Where the last look found its piece: the next one is mostly there or just after it. */
  #near = 0;

  constructor(joint: number, pieces: readonly Piece[], lane: LaneCurve | null, clips: readonly ClipCurve[]) {
    this.joint = joint;
    this.#pieces = pieces;
    this.#begins = Float64Array.from(pieces, (piece) => piece.fromMs);
    this.#lane = lane;
    this.#clips = clips;
    this.#covers = [lane?.cover ?? [], ...clips.map((clip) => clip.cover ?? [])].flat().sort((a, b) => a.toMs - b.toMs);
  }

  /** The target at a moment. `start` is where the joint stands when the routine begins. */
  valueAt(atMs: number, start: number): number {
    let value = this.baseAt(atMs, start);
    if (this.#lane) value = this.#lane.over(value, atMs);
    const clips = this.#clips;
    for (let at = 0; at < clips.length; at += 1) value = (clips[at] as ClipCurve).over(value, atMs);
    return value;
  }

  /** The target as the moves alone have it: what a round hands on to the next. */
  baseAt(atMs: number, start: number): number {
    const at = this.#find(atMs);
    const piece = this.#pieces[at];
    return piece ? valueIn(piece, atMs, this.beginsFrom(piece, start)) : this.#restAt(atMs, start);
  }

  /** Where the joint is when a piece begins. */
  beginsFrom(piece: Piece, start: number): number {
    return piece.from ?? this.#restAt(piece.fromMs, start);
  }

  /**
   * Where the joint rests while no move has said anything of it: where the last take or lane left it, else where the first one will take it up,
   * else where it stood.
   */
  #restAt(atMs: number, start: number): number {
    if (this.#covers.length === 0) return start;
    const left = this.#covers.findLast((cover) => cover.toMs <= atMs && cover.last !== null);
    if (left) return left.last as number;
    let first: Cover | null = null;
    for (const cover of this.#covers) if (!first || cover.fromMs < first.fromMs) first = cover;
    const isFirst = first && first.fromMs <= (this.#pieces[0]?.fromMs ?? Number.POSITIVE_INFINITY);
    return (isFirst ? first?.first : null) ?? start;
  }

  /** The first move, where it begins from wherever the joint stands: how far it goes to where, in how long, on which curve. */
  get opening(): Extract<Piece, { kind: "move" }> | null {
    const first = this.#pieces[0];
    const isFree = first && this.#covers.every((cover) => cover.fromMs > first.fromMs);
    return isFree && first.kind === "move" && first.from === null ? first : null;
  }

  /** Its own moves, in the order of time; those of routines within are theirs. */
  get moves(): readonly Extract<Piece, { kind: "move" }>[] {
    return this.#pieces.filter((piece) => piece.kind === "move");
  }

  /** Whether a lane or a clip lies over the moves at some moment. */
  isCoveredAt(atMs: number): boolean {
    const moments = this.#lane?.moments;
    const hasLane = moments && atMs >= (moments[0] ?? 0) && atMs <= (moments.at(-1) ?? 0);
    return hasLane || this.#clips.some((clip) => atMs >= clip.fromMs && atMs <= clip.toMs);
  }

  /** The last piece that has begun, or −1. */
  #find(atMs: number): number {
    const begins = this.#begins;
    let at = this.#near;
    // Nothing is allocated here: this is asked for every joint at every frame.
    if (at < begins.length && (begins[at] as number) <= atMs) {
      while (at + 1 < begins.length && at < this.#near + 3 && (begins[at + 1] as number) <= atMs) at += 1;
      if (at + 1 >= begins.length || (begins[at + 1] as number) > atMs) {
        this.#near = at;
        return at;
      }
    }
    at = lastAtMost(begins, atMs);
    this.#near = Math.max(at, 0);
    return at;
  }
}

/** A stretch of time in which something takes the moves' place, with the targets at its ends; null where it is faded there. */
interface Cover {
  readonly fromMs: number;
  readonly toMs: number;
  readonly first: number | null;
  readonly last: number | null;
}

/** The last place of an ascending row whose value is at most `wanted`, or −1, by halving. */
export function lastAtMost(row: Float64Array, wanted: number): number {
  let low = -1;
  let high = row.length;
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if ((row[middle] as number) <= wanted) low = middle;
    else high = middle;
  }
  return low;
}

function valueIn(piece: Piece, atMs: number, from: number): number {
  if (piece.kind === "move") {
    // At the end the target itself, not a sum that may miss it by a rounding.
    if (atMs >= piece.toMs) return piece.to;
    return from + (piece.to - from) * piece.curve((atMs - piece.fromMs) / (piece.toMs - piece.fromMs));
  }
  const { track, lengthMs, isThereAndBack } = piece;
  // After it the moves go on from where its moves end; what is laid over them ends with it.
  if (atMs >= piece.toMs) return isThereAndBack ? track.baseAt(0, from) : track.baseAt(lengthMs, from);
  const roundMs = isThereAndBack ? 2 * lengthMs : lengthMs;
  const round = Math.floor((atMs - piece.fromMs) / roundMs);
  const withinMs = atMs - piece.fromMs - round * roundMs;
  const start = round === 0 || isThereAndBack ? from : track.baseAt(lengthMs, from);
  return track.valueAt(withinMs > lengthMs ? roundMs - withinMs : withinMs, start);
}

const shapeCodes = { line: 0, smooth: 1, step: 2 } as const;

/** The keys of a lane as numbers in a row, ready to be read. */
export class LaneCurve {
  readonly moments: Float64Array;
  readonly #targets: Float64Array;
  readonly #shapes: Uint8Array;
  readonly #slopes: Float64Array;
  readonly #isAdd: boolean;
  #near = 0;

  constructor(lane: Pick<Lane, "mode" | "keys">) {
    this.moments = Float64Array.from(lane.keys, (key) => key.atMs);
    this.#targets = Float64Array.from(lane.keys, (key) => key.target);
    this.#shapes = Uint8Array.from(lane.keys, (key) => shapeCodes[key.shape]);
    this.#slopes = lane.keys.some((key) => key.shape === "smooth")
      ? monotoneSlopes(this.moments, this.#targets)
      : new Float64Array(0);
    this.#isAdd = lane.mode === "add";
  }

  get cover(): Cover | null {
    const last = this.moments.length - 1;
    if (this.#isAdd || last < 0) return null;
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
    return this.#isAdd ? value + own : own;
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

export const laneCurve = (lane: Lane | undefined): LaneCurve | null =>
  lane && lane.keys.length > 0 ? new LaneCurve(lane) : null;

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

/** Keys that lie closer than this, in ms, are one. */
export const sameMomentMs = 0.5;

/** The key at a moment, if there is one. */
export const keyNear = (keys: readonly Key[], atMs: number): Key | undefined =>
  keys.find((key) => Math.abs(key.atMs - atMs) < sameMomentMs);
