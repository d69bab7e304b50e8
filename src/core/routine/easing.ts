import type { Easing } from "@core/project";
import { hermite, monotoneSlopes } from "./monotone";

/** How far along a move is after a share of its time, both 0…1; it may leave that range on the way, never at the ends. */
export type Curve = (share: number) => number;

/** What a curve asks of a servo: the most it is faster than its mean speed, and its largest acceleration in ways per time squared. */
export interface Demand {
  readonly peakRate: number;
  /** Infinite where a curve begins or ends with a jump of speed. */
  readonly peakAcceleration: number;
}

/**
 * Goes past the end by `by` and comes back: `1 + (c + 1)u³ + cu²` with `u = s − 1`, whose highest point lies `4c³ / 27(c + 1)²` above 1.
 * Gives c for that height, by halving the range it lies in.
 */
export function overshootFactor(by: number): number {
  let low = 0;
  let high = 20;
  for (let halvings = 0; halvings < 60; halvings += 1) {
    const c = (low + high) / 2;
    if ((4 * c ** 3) / (27 * (c + 1) ** 2) < by) low = c;
    else high = c;
  }
  return (low + high) / 2;
}

const even: Curve = (s) => s;
const easeIn: Curve = (s) => s * s;
const easeOut: Curve = (s) => s * (2 - s);
const easeBoth: Curve = (s) => s * s * (3 - 2 * s);
/**
 * The minimum-jerk curve `10s³ − 15s⁴ + 6s⁵` (Flash and Hogan 1985): at rest at both ends, and fastest half-way, at 1.875 times its mean speed.
 */
export const leastJerk: Curve = (s) => s * s * s * (10 + s * (6 * s - 15));

/** The curve of an easing, for shares 0…1. */
export function easedBy(easing: Easing): Curve {
  switch (easing.kind) {
    case "even":
      return even;
    case "in":
      return easeIn;
    case "out":
      return easeOut;
    case "both":
      return easeBoth;
    case "leastJerk":
      return leastJerk;
    case "overshoot": {
      const c = overshootFactor(easing.by);
      return (s) => 1 + (s - 1) * (s - 1) * ((c + 1) * (s - 1) + c);
    }
    case "drawn":
      return drawnCurve(easing.points);
  }
}

function drawnCurve(points: readonly { readonly x: number; readonly y: number }[]): Curve {
  const xs = Float64Array.from(points, (point) => point.x);
  const ys = Float64Array.from(points, (point) => point.y);
  const slopes = monotoneSlopes(xs, ys);
  return (share) => {
    let at = 0;
    while (at < xs.length - 2 && (xs[at + 1] as number) <= share) at += 1;
    const width = (xs[at + 1] as number) - (xs[at] as number);
    const within = (share - (xs[at] as number)) / width;
    return hermite(
      ys[at] as number,
      slopes[at] as number,
      ys[at + 1] as number,
      slopes[at + 1] as number,
      width,
      within,
    );
  };
}

/** What an easing asks of a servo. A drawn one is looked at in 2000 steps. */
export function demandOf(easing: Easing): Demand {
  switch (easing.kind) {
    case "even":
      return { peakRate: 1, peakAcceleration: Number.POSITIVE_INFINITY };
    case "in":
    case "out":
      return { peakRate: 2, peakAcceleration: Number.POSITIVE_INFINITY };
    case "both":
      return { peakRate: 1.5, peakAcceleration: 6 };
    case "leastJerk":
      return { peakRate: 1.875, peakAcceleration: 10 / Math.sqrt(3) };
    case "overshoot":
      return { peakRate: overshootFactor(easing.by) + 3, peakAcceleration: Number.POSITIVE_INFINITY };
    case "drawn": {
      const curve = easedBy(easing);
      const steps = 2000;
      let peakRate = 0;
      for (let at = 0; at < steps; at += 1)
        peakRate = Math.max(peakRate, Math.abs(curve((at + 1) / steps) - curve(at / steps)) * steps);
      return { peakRate, peakAcceleration: Number.POSITIVE_INFINITY };
    }
  }
}
