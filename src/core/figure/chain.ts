import type { Joint, Part, Tip } from "@core/project";
import type { Vector } from "@core/shapes";
import { type Frames, frameOfPlace, frameOfTurn, frameSize, joinFrames } from "./frames";
import { type Assembly, partFrame, placeOf, rateOf, type Standing, standing, standWays } from "./stand";

/** A joint that a tip may be moved by, and how far it may go. */
export interface FreeJoint {
  readonly place: number;
  readonly low: number;
  readonly high: number;
}

/**
 * The way from the table to a tip: only what moves on it, with all that is fixed in between folded together. Its frames and slopes are what inverse kinematics
 * asks for thousands of times, so nothing is made anew there.
 */
export class Chain {
  /** The joints that move the tip, in the order of the way. */
  readonly joints: readonly FreeJoint[];
  /** Where the tip stands: a frame in the world. */
  readonly tip: Frames = new Float64Array(frameSize);
  readonly now: Standing;
  readonly #segments: readonly Segment[];
  readonly #frames: Frames;
  readonly #tipRest: Frames = new Float64Array(frameSize);
  readonly #turn: Frames = new Float64Array(frameSize);
  readonly #hung: Frames = new Float64Array(frameSize);

  /** `free` are the joints of the bench that may be moved; those of them that do not move this tip are left alone. */
  constructor(assembly: Assembly, tip: Pick<Tip, "partId" | "place">, free: readonly FreeJoint[]) {
    this.now = standing(assembly);
    const path: number[] = [];
    for (let at = placeOf(assembly, tip.partId); at >= 0; at = assembly.parents[at] as number) path.unshift(at);
    const segments: Segment[] = [];
    let rest: Frames = unmoved();
    for (const place of path) {
      const joined = new Float64Array(frameSize);
      joinFrames(rest, 0, assembly.rests, partFrame(place), joined, 0);
      rest = joined;
      const { motion } = assembly.parts[place] as Part;
      if (motion.kind === "fixed") continue;
      const mover = assembly.movers[place] as number;
      const variable = free.findIndex((one) => one.place === mover);
      segments.push({ place, rest, axis: assembly.axes[place] as Vector, slides: motion.kind === "slide", variable });
      rest = unmoved();
    }
    const own = new Float64Array(frameSize);
    frameOfPlace(tip.place, own);
    joinFrames(rest, 0, own, 0, this.#tipRest, 0);
    // Only those that are on the way keep a number of their own.
    const used = [...new Set(segments.map(({ variable }) => variable).filter((variable) => variable >= 0))];
    this.joints = used.map((variable) => free[variable] as FreeJoint);
    this.#segments = segments.map((segment) => ({ ...segment, variable: used.indexOf(segment.variable) }));
    this.#frames = new Float64Array((segments.length + 1) * frameSize);
  }

  /** Stands the chain as the targets in `now` say. */
  stand(): void {
    standWays(this.now);
    const frames = this.#frames;
    let from = unmovedFrame;
    let fromAt = 0;
    for (let index = 0; index < this.#segments.length; index += 1) {
      const { place, rest, axis, slides } = this.#segments[index] as Segment;
      const way = this.now.ways[place] as number;
      if (slides) {
        frameOfTurn(axis, 0, this.#turn);
        for (let row = 0; row < 3; row += 1) this.#turn[9 + row] = (axis[row] as number) * way;
      } else frameOfTurn(axis, (way * Math.PI) / 180, this.#turn);
      joinFrames(rest, 0, this.#turn, 0, this.#hung, 0);
      joinFrames(from, fromAt, this.#hung, 0, frames, index * frameSize);
      from = frames;
      fromAt = index * frameSize;
    }
    joinFrames(from, fromAt, this.#tipRest, 0, this.tip, 0);
  }

  /**
   * How the tip moves for one degree of each joint: six numbers a joint, the first three how far its origin moves (mm), the others its turn (radians, as a vector
   * along its axis). Asked after `stand`.
   */
  slopes(out: Float64Array): void {
    out.fill(0, 0, this.joints.length * 6);
    for (let index = 0; index < this.#segments.length; index += 1) {
      const { place, axis, slides, variable } = this.#segments[index] as Segment;
      if (variable < 0) continue;
      const at = index * frameSize;
      const rate = rateOf(this.now, place);
      const [x, y, z] = axis;
      const f = this.#frames;
      const ax = (f[at] as number) * x + (f[at + 1] as number) * y + (f[at + 2] as number) * z;
      const ay = (f[at + 3] as number) * x + (f[at + 4] as number) * y + (f[at + 5] as number) * z;
      const az = (f[at + 6] as number) * x + (f[at + 7] as number) * y + (f[at + 8] as number) * z;
      const to = variable * 6;
      if (slides) {
        out[to] = (out[to] as number) + ax * rate;
        out[to + 1] = (out[to + 1] as number) + ay * rate;
        out[to + 2] = (out[to + 2] as number) + az * rate;
        continue;
      }
      const turn = (rate * Math.PI) / 180;
      const [wx, wy, wz] = [ax * turn, ay * turn, az * turn];
      const dx = (this.tip[9] as number) - (f[at + 9] as number);
      const dy = (this.tip[10] as number) - (f[at + 10] as number);
      const dz = (this.tip[11] as number) - (f[at + 11] as number);
      out[to] = (out[to] as number) + wy * dz - wz * dy;
      out[to + 1] = (out[to + 1] as number) + wz * dx - wx * dz;
      out[to + 2] = (out[to + 2] as number) + wx * dy - wy * dx;
      out[to + 3] = (out[to + 3] as number) + wx;
      out[to + 4] = (out[to + 4] as number) + wy;
      out[to + 5] = (out[to + 5] as number) + wz;
    }
  }

  /** Where the axle of the joint in the middle of the way stands, by its number here: an elbow. */
  originOf(variable: number, out: Float64Array): void {
    const index = this.#segments.findIndex((segment) => segment.variable === variable);
    for (let row = 0; row < 3; row += 1) out[row] = this.#frames[index * frameSize + 9 + row] as number;
  }
}

interface Segment {
  readonly place: number;
  readonly rest: Frames;
  readonly axis: Vector;
  readonly slides: boolean;
  /** Which of the free joints moves it; −1 for none. */
  readonly variable: number;
}

const unmovedFrame: Frames = Float64Array.from([1, 0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0]);
const unmoved = (): Frames => Float64Array.from(unmovedFrame);

/** The joints of a bench that turn to angles, within their travel limits. */
export const freeJoints = (joints: readonly Joint[]): readonly FreeJoint[] =>
  joints.flatMap(({ axis }, place) =>
    axis.kind === "angle" ? [{ place, low: axis.travel.low, high: axis.travel.high }] : [],
  );
