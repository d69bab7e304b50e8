import type { ClipCurve } from "./clipCurve";
import type { Cover } from "./cover";
import type { Curve } from "./easing";
import type { LaneCurve } from "./laneCurve";
import { lastAtMost } from "./lastAtMost";

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
    this.#begins = new Float64Array(pieces.length);
    for (let at = 0; at < pieces.length; at += 1) this.#begins[at] = (pieces[at] as Piece).fromMs;
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
