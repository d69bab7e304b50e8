import type { Tip } from "@core/project";
import type { Vector } from "@core/shapes";
import type { Aim } from "./aim";
import { Chain, type FreeJoint } from "./chain";
import { Inverse } from "./inverse";
import type { Assembly } from "./stand";

/** A tip led along a way: what its joints are asked for, at places that lie evenly on it. */
export interface Led {
  /** How long the way is, in mm. */
  readonly wayMm: number;
  /** By place number of the joint: its target at each of the places, first and last included. */
  readonly targets: ReadonlyMap<number, Float64Array>;
  /** Where the tip comes furthest from the way, how far, and where it should have been; 0 where it stays on it. */
  readonly strays: PlaceOnWay & { readonly offMm: number; readonly wantedMm: Vector };
  /** Where on its way it points furthest from how it should, and by how much; 0 where it keeps to it, or may point as it likes. */
  readonly leans: PlaceOnWay & { readonly offDeg: number };
  /** Where a joint would have to leap to stay on the way, which joint by its place, and by how much; 0 where none does. */
  readonly leaps: PlaceOnWay & { readonly joint: number; readonly byDeg: number };
  /** Where its joints would arrive without a leap, by their places: another stance for the same end. Null where there is no leap at the end alone, or no such stance. */
  readonly arrival: ReadonlyMap<number, number> | null;
}

/** A place on a way: as a share of it, and where the tip is then. */
interface PlaceOnWay {
  readonly share: number;
  readonly atMm: Vector;
}

/** Whether something of a way is not as it should be. */
export const isAstray = ({ strays, leans, leaps }: Led): boolean =>
  strays.offMm > 0 || leans.offDeg > 0 || leaps.byDeg > 0;

/** How a led tip points on its way: as it comes; rising over the level as at its ends; or along the very directions of its ends, turned evenly from one to the other. */
export type Pointing = "freely" | "tilt" | "direction";

/** Nearer than this it is on its way, and points as it should. */
const onWayMm = 0.5;
const asToldDeg = 1;
/** Places on the way lie so far apart. */
const stepMm = 4;
/** No joint turns by so much more than evenly from one place to the next but where the machine would have to fold over. */
const leapDeg = 30;
/** Joints are drawn towards the end by so much at a place, or twice as far as evenly, lest they leap there. */
const mostDrawnDeg = 4;

/**
 * Leads a tip from one stance to another, straight, or on the circle through a third place. The joints go on from place to place, and draw near to where the other
 * stance has them as far as the way leaves them free; where that leads into a corner, they begin each place from what lies between both stances instead.
 * Where the way cannot be passed the tip goes as near as it can; where it cannot point as it should it keeps to its way, and points as nearly so as it can.
 */
export function led(
  assembly: Assembly,
  tip: Tip,
  free: readonly FreeJoint[],
  from: ArrayLike<number>,
  to: ArrayLike<number>,
  viaMm: Vector | null,
  pointing: Pointing = "freely",
): Led {
  const walker = new Walker(new Inverse(new Chain(assembly, tip, free)), from, to, viaMm, pointing);
  let best: Led | null = null;
  for (const keepsPointing of pointing === "freely" ? [false] : [true, false])
    for (const goesOn of [true, false]) {
      const found = walker.walk(keepsPointing, goesOn);
      if (!best || isBetter(found, best)) best = found;
      if (best.strays.offMm === 0 && best.leaps.byDeg === 0) return best;
    }
  return best as Led;
}

/** The way is worth most, then that no joint leaps, or only at the end and for another stance of it; then how the tip points. */
function isBetter(a: Led, b: Led): boolean {
  if (a.strays.offMm !== b.strays.offMm) return a.strays.offMm < b.strays.offMm;
  if (!a.arrival !== !b.arrival) return a.arrival !== null ? b.leaps.byDeg > 0 : a.leaps.byDeg === 0;
  if (a.leaps.byDeg !== b.leaps.byDeg) return a.leaps.byDeg < b.leaps.byDeg;
  return a.leans.offDeg < b.leans.offDeg;
}

/** Walks a tip along its way, in one manner or another. */
class Walker {
  readonly #inverse: Inverse;
  readonly #from: ArrayLike<number>;
  readonly #to: ArrayLike<number>;
  readonly #begin: Stance;
  readonly #way: Way;
  readonly #steps: number;
  readonly #aimAt: (share: number) => PlaceAim;

  constructor(
    inverse: Inverse,
    from: ArrayLike<number>,
    to: ArrayLike<number>,
    viaMm: Vector | null,
    pointing: Pointing,
  ) {
    this.#inverse = inverse;
    this.#from = from;
    this.#to = to;
    this.#begin = this.#standAt(from);
    const end = this.#standAt(to);
    const { atMm, x } = this.#begin;
    this.#way = viaMm ? roundWay(atMm, viaMm, end.atMm) : straightWay(atMm, end.atMm);
    this.#aimAt = aimsAlong(this.#way, pointing, x, end.x);
    this.#steps = Math.max(8, Math.min(400, Math.ceil(this.#way.lengthMm / stepMm)));
  }

  walk(keepsPointing: boolean, goesOn: boolean): Led {
    const { chain } = this.#inverse;
    const steps = this.#steps;
    const targets = new Map(chain.joints.map(({ place }) => [place, new Float64Array(steps + 1)] as const));
    const { atMm } = this.#begin;
    let strays: Led["strays"] = { share: 0, atMm, offMm: 0, wantedMm: atMm };
    let leans: Led["leans"] = { share: 0, atMm, offDeg: 0 };
    let leaps: Led["leaps"] = { share: 0, atMm, joint: -1, byDeg: 0 };
    let arrival: Led["arrival"] = null;
    for (let step = 0; step <= steps; step += 1) {
      const share = step / steps;
      if (step === steps && goesOn) arrival = this.#arrival(keepsPointing, leaps.byDeg > 0 || strays.offMm > 0);
      this.#startAt(step, goesOn);
      if (step > 0 && step < steps) {
        const aim = this.#aimAt(share);
        const found = this.#inverse.near(keepsPointing ? aim : placeOnly(aim));
        const { offMm } = found.isReached || !keepsPointing ? found : this.#inverse.near(placeOnly(aim));
        const offDeg = this.#inverse.offDeg(aim);
        if (offMm > Math.max(onWayMm, strays.offMm)) strays = { share, atMm: this.#tipMm(), offMm, wantedMm: aim.atMm };
        if (offDeg > Math.max(asToldDeg, leans.offDeg)) leans = { share, atMm: this.#tipMm(), offDeg };
      }
      for (const [place, values] of targets) {
        const target = chain.now.targets[place] as number;
        values[step] = target;
        const byDeg = step === 0 ? 0 : Math.abs(target - (values[step - 1] as number));
        if (byDeg > Math.max(leapDeg + this.#evenDeg(place), leaps.byDeg))
          leaps = { share, atMm: this.#tipMm(), joint: place, byDeg };
      }
    }
    return { wayMm: this.#way.lengthMm, targets, strays, leans, leaps, arrival: leaps.share === 1 ? arrival : null };
  }

  /** The stance in which the end is come to from the last place before it. */
  #arrival(keepsPointing: boolean, hasFailed: boolean): Led["arrival"] {
    if (hasFailed) return null;
    const { chain } = this.#inverse;
    const aim = this.#aimAt(1);
    const { isReached } = this.#inverse.near(keepsPointing ? aim : placeOnly(aim));
    return isReached ? new Map(chain.joints.map(({ place }) => [place, chain.now.targets[place] as number])) : null;
  }

  /** Stands the joints where they begin a place: on from the last one, and nearer to the end by its share; or between both ends. The ends are exact. */
  #startAt(step: number, goesOn: boolean): void {
    const { targets } = this.#inverse.chain.now;
    const isInner = step > 0 && step < this.#steps;
    for (let joint = 0; joint < this.#from.length; joint += 1) {
      const [begin, end] = [this.#from[joint] as number, this.#to[joint] as number];
      if (isInner && goesOn) {
        const gap = (end - (targets[joint] as number)) / (this.#steps - step + 1);
        const most = Math.max(mostDrawnDeg, 2 * this.#evenDeg(joint));
        targets[joint] = (targets[joint] as number) + Math.max(-most, Math.min(most, gap));
      } else targets[joint] = step === this.#steps ? end : begin + (step / this.#steps) * (end - begin);
    }
    if (!isInner) this.#inverse.chain.stand();
  }

  /** How far a joint turns from place to place where it turns evenly: a hand that is rolled on a short way turns far, and leaps nowhere. */
  #evenDeg(joint: number): number {
    return Math.abs((this.#to[joint] as number) - (this.#from[joint] as number)) / this.#steps;
  }

  #standAt(targets: ArrayLike<number>): Stance {
    const { chain } = this.#inverse;
    for (let joint = 0; joint < targets.length; joint += 1) chain.now.targets[joint] = targets[joint] as number;
    chain.stand();
    const { tip } = chain;
    return { atMm: this.#tipMm(), x: [tip[0] as number, tip[3] as number, tip[6] as number] };
  }

  #tipMm(): Vector {
    const { tip } = this.#inverse.chain;
    return [tip[9] as number, tip[10] as number, tip[11] as number];
  }
}

/** Where a tip is, and where its x points. */
interface Stance {
  readonly atMm: Vector;
  readonly x: Vector;
}

type PlaceAim = Extract<Aim, { kind: "place" }>;

const placeOnly = ({ atMm }: PlaceAim): PlaceAim => ({ kind: "place", atMm, along: null, up: null });

/** Where a tip is wanted at each share of its way, when its x points so at both ends. */
function aimsAlong(way: Way, pointing: Pointing, from: Vector, to: Vector): (share: number) => PlaceAim {
  const place = (share: number): PlaceAim => ({ kind: "place", atMm: way.at(share), along: null, up: null });
  if (pointing === "freely") return place;
  if (pointing === "tilt") {
    const [begin, end] = [tiltOf(from), tiltOf(to)];
    return (share) => ({ ...place(share), tiltDeg: begin + share * (end - begin) });
  }
  const angle = Math.atan2(Math.hypot(...cross(from, to)), dot(from, to));
  // Between opposite directions there is no shortest turn; between equal ones none at all.
  if (Math.PI - angle < 1e-6) return place;
  if (angle < 1e-9) return (share) => ({ ...place(share), along: from });
  const part = (share: number) => Math.sin(share * angle) / Math.sin(angle);
  return (share) => ({ ...place(share), along: plus(plus([0, 0, 0], from, part(1 - share)), to, part(share)) });
}

const tiltOf = ([x, y, z]: Vector): number => (Math.atan2(z, Math.hypot(x, y)) * 180) / Math.PI;

interface Way {
  readonly lengthMm: number;
  readonly at: (share: number) => Vector;
}

const between = (a: Vector, b: Vector, share: number): Vector => [
  a[0] + share * (b[0] - a[0]),
  a[1] + share * (b[1] - a[1]),
  a[2] + share * (b[2] - a[2]),
];
const minus = (a: Vector, b: Vector): Vector => [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
const dot = (a: Vector, b: Vector): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
const cross = (a: Vector, b: Vector): Vector => [
  a[1] * b[2] - a[2] * b[1],
  a[2] * b[0] - a[0] * b[2],
  a[0] * b[1] - a[1] * b[0],
];
const plus = (a: Vector, b: Vector, times: number): Vector => [
  a[0] + times * b[0],
  a[1] + times * b[1],
  a[2] + times * b[2],
];

function straightWay(from: Vector, to: Vector): Way {
  return { lengthMm: Math.hypot(...minus(to, from)), at: (share) => between(from, to, share) };
}

/** The circle through three places, from the first over the second to the third. Three on one line make no circle: it is two straight ways then. */
function roundWay(from: Vector, via: Vector, to: Vector): Way {
  const [u, v] = [minus(via, from), minus(to, from)];
  const normal = cross(u, v);
  const area2 = dot(normal, normal);
  if (area2 < 1e-6 * dot(u, u) * dot(v, v) + 1e-9) {
    const [first, second] = [Math.hypot(...u), Math.hypot(...minus(to, via))];
    const whole = first + second || 1;
    return {
      lengthMm: first + second,
      at: (share) =>
        share * whole <= first
          ? between(from, via, first > 0 ? (share * whole) / first : 1)
          : between(via, to, (share * whole - first) / second),
    };
  }
  // The middle of the circle, from its first place. Source: the circumcentre of a triangle in space.
  const toMiddle = cross(
    [dot(u, u) * v[0] - dot(v, v) * u[0], dot(u, u) * v[1] - dot(v, v) * u[1], dot(u, u) * v[2] - dot(v, v) * u[2]],
    normal,
  ).map((value) => value / (2 * area2)) as unknown as Vector;
  const middle = plus(from, toMiddle, 1);
  const radius = Math.hypot(...toMiddle);
  const right = plus([0, 0, 0], minus(from, middle), 1 / radius);
  const up = cross(plus([0, 0, 0], normal, 1 / Math.sqrt(area2)), right);
  const angleOf = (place: Vector) => {
    const gap = minus(place, middle);
    const angle = Math.atan2(dot(gap, up), dot(gap, right));
    return angle < 0 ? angle + 2 * Math.PI : angle;
  };
  // Seen along the normal the second place comes before the third.
  const whole = angleOf(to);
  return {
    lengthMm: radius * whole,
    at: (share) => plus(plus(middle, right, radius * Math.cos(share * whole)), up, radius * Math.sin(share * whole)),
  };
}
