import type { ClipCurve, ClipShare } from "./clipCurve";
import type { Cover } from "./cover";
import type { LaneCurve } from "./laneCurve";
import { lastAtMost } from "./lastAtMost";
import { type Columns, type JointMove, moveAt, type Pieces } from "./pieces";

/**
 * What one joint is asked for over the time of a routine: its moves, then the keys of its lane in their place or on top, then clips, the later
 * above the earlier. A pure function of time and of where the joint stood when the routine began. Times in ms, targets in degrees or spin.
 */
export class Track {
  /** The joint's place in the project. */
  readonly joint: number;
  readonly #pieces: Columns;
  readonly #lane: LaneCurve | null;
  readonly #clips: readonly ClipCurve[];
  /** What takes the moves' place for a while, in the order of its end. */
  readonly #covers: readonly Cover[];
  /** Where the last look found its piece: the next one is mostly there or just after it. */
  #near = 0;

  constructor(joint: number, pieces: Pieces, lane: LaneCurve | null, clips: readonly ClipCurve[]) {
    this.joint = joint;
    this.#pieces = pieces.columns;
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

  /** `valueAt` at every `stepMs` from a moment on. Where nothing lies over the moves they are gone through piece by piece. */
  sample(start: number, fromMs: number, stepMs: number, out: Float32Array): void {
    const isBare = !this.#lane && this.#clips.length === 0;
    const { begins, ends, froms, tos, courses } = this.#pieces;
    for (let at = 0; at < out.length; ) {
      const atMs = fromMs + at * stepMs;
      const piece = isBare ? this.#find(atMs) : -1;
      const course = courses[piece];
      if (course?.kind !== "move") {
        out[at] = this.valueAt(atMs, start);
        at += 1;
        continue;
      }
      const beginMs = begins[piece] as number;
      const endMs = ends[piece] as number;
      const nextMs = begins[piece + 1] ?? Number.POSITIVE_INFINITY;
      const to = tos[piece] as number;
      const known = froms[piece] as number;
      const from = Number.isNaN(known) ? this.#restAt(beginMs, start) : known;
      const { curve } = course;
      for (; at < out.length; at += 1) {
        const ms = fromMs + at * stepMs;
        if (ms >= endMs || ms >= nextMs) break;
        out[at] = from + (to - from) * curve((ms - beginMs) / (endMs - beginMs));
      }
      for (; at < out.length && fromMs + at * stepMs < nextMs; at += 1) out[at] = to;
    }
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
    const course = courses[at] as Columns["courses"][number];
    if (course.kind === "nested") return nestedAt(course, atMs - fromMs, toMs - fromMs, from);
    const to = tos[at] as number;
    if (course.kind === "led") return atMs >= toMs ? to : ledAt(course, (atMs - fromMs) / (toMs - fromMs), from);
    // At the end the target itself, not a sum that may miss it by a rounding.
    return atMs >= toMs ? to : from + (to - from) * course.curve((atMs - fromMs) / (toMs - fromMs));
  }

  /** Where the joint is when a move begins. */
  beginsFrom(move: JointMove, start: number): number {
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
    const isFirst = first && first.fromMs <= (this.#pieces.begins[0] ?? Number.POSITIVE_INFINITY);
    return (isFirst ? first?.first : null) ?? start;
  }

  /** The first move, where it begins from wherever the joint stands: how far it goes to where, in how long, on which curve. */
  get opening(): JointMove | null {
    const first = moveAt(this.#pieces, 0);
    const isFree = first?.from === null && this.#covers.every((cover) => cover.fromMs > first.fromMs);
    return isFree ? first : null;
  }

  /** Its own moves, in the order of time; those of routines within are theirs. */
  get moves(): readonly JointMove[] {
    return this.#pieces.courses.flatMap((_, at) => moveAt(this.#pieces, at) ?? []);
  }

  /** Whether a lane or a clip lies over the moves at some moment. */
  isCoveredAt(atMs: number): boolean {
    const moments = this.#lane?.moments;
    const hasLane = moments && atMs >= (moments[0] ?? 0) && atMs <= (moments.at(-1) ?? 0);
    return hasLane || this.#clips.some((clip) => atMs >= clip.fromMs && atMs <= clip.toMs);
  }

  /**
   * The moments that a look every `gridMs` may miss, in the order of time: keys and the ends of moves, and a few moments between those that lie close;
   * the ends and fades of clips, and their samples where those are closer than the grid.
   */
  momentsBetween(gridMs: number): Float64Array {
    const moments: number[] = [];
    const keys = this.#lane?.moments ?? [];
    for (let at = 0; at < keys.length; at += 1) {
      const [ms, nextMs] = [keys[at] as number, keys[at + 1] ?? Number.POSITIVE_INFINITY];
      moments.push(ms);
      if (nextMs - ms < 4 * gridMs) for (const share of [0.25, 0.5, 0.75]) moments.push(ms + share * (nextMs - ms));
    }
    const { begins, ends } = this.#pieces;
    for (let at = 0; at < begins.length; at += 1) {
      const [ms, endMs] = [begins[at] as number, ends[at] as number];
      moments.push(ms, endMs);
      if (endMs - ms < 4 * gridMs) for (const share of [0.25, 0.5, 0.75]) moments.push(ms + share * (endMs - ms));
    }
    for (const clip of this.#clips) clip.addMoments(gridMs, moments);
    return Float64Array.from(moments).sort();
  }

  /** What each layer has to do with the change from one moment to a later one: how far each turns the joint by itself, as far as it is seen. */
  sharesOf(fromMs: number, toMs: number, start: number): Shares {
    const atMs = (fromMs + toMs) / 2;
    const over = this.#clips.filter((clip) => atMs >= clip.fromMs && atMs <= clip.toMs);
    const moments = this.#lane?.moments;
    const lane = moments && atMs >= (moments[0] ?? 0) && atMs <= (moments.at(-1) ?? 0) ? this.#lane : null;
    const base = this.baseAt(toMs, start) - this.baseAt(fromMs, start);
    const own = lane ? lane.over(0, toMs) - lane.over(0, fromMs) : 0;
    let below = lane ? lane.over(this.baseAt(atMs, start), atMs) : this.baseAt(atMs, start);
    const clips: ClipShare[] = [];
    for (const clip of over) {
      const share = clip.shareOf(fromMs, toMs, below);
      for (const one of clips) {
        one.own *= share.letsThrough;
        one.fade *= share.letsThrough;
      }
      below = clip.over(below, atMs);
      clips.push(share);
    }
    const seen = clips.reduce((through, clip) => through * clip.letsThrough, 1);
    const piece = this.#find(atMs);
    const course = this.#pieces.courses[piece];
    const isUnderWay = course && course.kind !== "nested" && atMs < (this.#pieces.ends[piece] as number);
    return {
      moves: lane && !lane.isAdd ? 0 : Math.abs(base) * seen,
      stepId: isUnderWay ? course.stepId : null,
      lane: Math.abs(own) * seen,
      clips,
    };
  }

  /** The routine within that has the joint at a moment, and when that began; null for none. */
  nestedAt(
    atMs: number,
  ): { readonly lengthMs: number; readonly isThereAndBack: boolean; readonly fromMs: number } | null {
    const at = this.#find(atMs);
    const course = this.#pieces.courses[at];
    if (course?.kind !== "nested" || atMs > (this.#pieces.ends[at] as number)) return null;
    const { lengthMs, isThereAndBack } = course;
    return { lengthMs, isThereAndBack, fromMs: this.#pieces.begins[at] as number };
  }

  /** The last piece that has begun, or −1. */
  #find(atMs: number): number {
    const { begins } = this.#pieces;
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

/** Where a led joint is, at a share of the time. It begins where it stands: what that is off is taken away on the way. */
function ledAt(
  { curve, targets }: Extract<Columns["courses"][number], { kind: "led" }>,
  time: number,
  from: number,
): number {
  const share = Math.max(0, Math.min(1, curve(time)));
  const place = share * (targets.length - 1);
  const at = Math.min(Math.floor(place), targets.length - 2);
  const value = (row: number) => targets[Math.max(0, Math.min(targets.length - 1, row))] as number;
  // Smooth through all places (Catmull and Rom): a servo is told no corners.
  const u = place - at;
  const [a, b, c, d] = [value(at - 1), value(at), value(at + 1), value(at + 2)];
  const smooth = b + (u / 2) * (c - a + u * (2 * a - 5 * b + 4 * c - d + u * (3 * (b - c) + d - a)));
  return smooth + (from - value(0)) * (1 - share);
}

/** Where a routine within has the joint, so long after it began; `from` is where it stood then. */
function nestedAt(
  { track, lengthMs, isThereAndBack }: Extract<Columns["courses"][number], { kind: "nested" }>,
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

/** See `Track.sharesOf`; targets. */
export interface Shares {
  readonly moves: number;
  /** The step whose move is under way, led or not. */
  readonly stepId: string | null;
  readonly lane: number;
  readonly clips: readonly ClipShare[];
}
