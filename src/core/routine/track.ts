import type { ClipCurve } from "./clipCurve";
import type { Cover } from "./cover";
import type { LaneCurve } from "./laneCurve";
import { lastAtMost } from "./lastAtMost";
import type { Move, Pieces } from "./pieces";

/**
 * What one joint is asked for over the time of a routine: its moves, then the keys of its lane in their place or on top, then clips, the later
 * above the earlier. A pure function of time and of where the joint stood when the routine began. Times in ms, targets in degrees or spin.
 */
export class Track {
  /** The joint's place in the project. */
  readonly joint: number;
  readonly #pieces: Pieces;
  readonly #lane: LaneCurve | null;
  readonly #clips: readonly ClipCurve[];
  /** What takes the moves' place for a while, in the order of its end. */
  readonly #covers: readonly Cover[];
  /** When each piece begins. */
  readonly #begins: Float64Array;
  /** Where the last look found its piece: the next one is mostly there or just after it. */
  #near = 0;

  constructor(joint: number, pieces: Pieces, lane: LaneCurve | null, clips: readonly ClipCurve[]) {
    this.joint = joint;
    this.#pieces = pieces;
    this.#begins = Float64Array.from(pieces.begins);
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
    if (at < 0) return this.#restAt(atMs, start);
    const { begins, ends, froms, tos, courses } = this.#pieces;
    const fromMs = begins[at] as number;
    const toMs = ends[at] as number;
    const known = froms[at] as number;
    const from = Number.isNaN(known) ? this.#restAt(fromMs, start) : known;
    const course = courses[at] as Pieces["courses"][number];
    if (course.kind === "nested") return nestedAt(course, atMs - fromMs, toMs - fromMs, from);
    const to = tos[at] as number;
    // At the end the target itself, not a sum that may miss it by a rounding.
    return atMs >= toMs ? to : from + (to - from) * course.curve((atMs - fromMs) / (toMs - fromMs));
  }

  /** Where the joint is when a move begins. */
  beginsFrom(move: Move, start: number): number {
    return move.from ?? this.#restAt(move.fromMs, start);
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
    const isFirst = first && first.fromMs <= (this.#begins[0] ?? Number.POSITIVE_INFINITY);
    return (isFirst ? first?.first : null) ?? start;
  }

  /** The first move, where it begins from wherever the joint stands: how far it goes to where, in how long, on which curve. */
  get opening(): Move | null {
    const first = this.#pieces.moveAt(0);
    const isFree = first?.from === null && this.#covers.every((cover) => cover.fromMs > first.fromMs);
    return isFree ? first : null;
  }

  /** Its own moves, in the order of time; those of routines within are theirs. */
  get moves(): readonly Move[] {
    return this.#pieces.courses.flatMap((_, at) => this.#pieces.moveAt(at) ?? []);
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

/** Where a routine within has the joint, so long after it began; `from` is where it stood then. */
function nestedAt(
  { track, lengthMs, isThereAndBack }: Extract<Pieces["courses"][number], { kind: "nested" }>,
  sinceMs: number,
  wholeMs: number,
  from: number,
): number {
  // After it the moves go on from where its moves end; what is laid over them ends with it.
  if (sinceMs >= wholeMs) return track.baseAt(isThereAndBack ? 0 : lengthMs, from);
  const roundMs = isThereAndBack ? 2 * lengthMs : lengthMs;
  const round = Math.floor(sinceMs / roundMs);
  const withinMs = sinceMs - round * roundMs;
  const start = round === 0 || isThereAndBack ? from : track.baseAt(lengthMs, from);
  return track.valueAt(withinMs > lengthMs ? roundMs - withinMs : withinMs, start);
}
