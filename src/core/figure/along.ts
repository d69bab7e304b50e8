import type { Tip } from "@core/project";
import type { Vector } from "@core/shapes";
import { Chain, type FreeJoint } from "./chain";
import { Inverse } from "./inverse";
import type { Assembly } from "./stand";

/** A tip led along a way: what its joints are asked for, at places that lie evenly on it. */
export interface Led {
  /** How long the way is, in mm. */
  readonly wayMm: number;
  /** By place number of the joint: its target at each of the places, first and last included. */
  readonly targets: ReadonlyMap<number, Float64Array>;
  /** Where the tip comes furthest from the way, as a share of it, and how far; and where it is then. */
  readonly worstShare: number;
  readonly offMm: number;
  readonly worstMm: Vector;
}

/** Nearer than this it is on its way. */
const onWayMm = 0.5;
/** Places on the way lie so far apart. */
const stepMm = 4;

/**
 * Leads a tip from one stance to another, straight, or on the circle through a third place. At each place on the way the joints begin from what lies between both
 * stances and are moved as little as needed, so the ends are exact, and what is free stays as even as it can. Where the way cannot be passed the tip goes as near
 * as it can.
 */
export function led(
  assembly: Assembly,
  tip: Tip,
  free: readonly FreeJoint[],
  from: ArrayLike<number>,
  to: ArrayLike<number>,
  viaMm: Vector | null,
): Led {
  const inverse = new Inverse(new Chain(assembly, tip, free));
  const { chain } = inverse;
  const tipAt = (targets: ArrayLike<number>): Vector => {
    for (let joint = 0; joint < targets.length; joint += 1) chain.now.targets[joint] = targets[joint] as number;
    chain.stand();
    return [chain.tip[9] as number, chain.tip[10] as number, chain.tip[11] as number];
  };
  const [begin, end] = [tipAt(from), tipAt(to)];
  const way = viaMm ? roundWay(begin, viaMm, end) : straightWay(begin, end);
  const steps = Math.max(8, Math.min(400, Math.ceil(way.lengthMm / stepMm)));
  const targets = new Map(chain.joints.map(({ place }) => [place, new Float64Array(steps + 1)] as const));
  let [worstShare, offMm, worstMm]: [number, number, Vector] = [0, 0, begin];
  for (let step = 0; step <= steps; step += 1) {
    const share = step / steps;
    for (let joint = 0; joint < from.length; joint += 1)
      chain.now.targets[joint] = (from[joint] as number) + share * ((to[joint] as number) - (from[joint] as number));
    if (step > 0 && step < steps) {
      const reached = inverse.near({ kind: "place", atMm: way.at(share), along: null, up: null });
      if (reached.offMm > offMm) {
        const t = chain.tip;
        [worstShare, offMm, worstMm] = [share, reached.offMm, [t[9] as number, t[10] as number, t[11] as number]];
      }
    }
    for (const [place, values] of targets) values[step] = chain.now.targets[place] as number;
  }
  return { wayMm: way.lengthMm, targets, worstShare, offMm: offMm > onWayMm ? offMm : 0, worstMm };
}

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
