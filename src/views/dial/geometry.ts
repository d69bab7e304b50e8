import type { JointScale } from "@core/rig";

/** Radii of the dial in its own units; the centre is the origin, and up is 0°. */
export const radius = {
  outerLabel: 188,
  outerTick: 170,
  rimOuter: 158,
  rimInner: 146,
  innerTick: 140,
  innerLabel: 114,
  hub: 15,
} as const;

/** Half of the arc on which a spin of 0…1 is drawn, in degrees. */
const spinArcDeg = 120;

/** Where a target stands on the dial, in degrees from the top, clockwise. Angles are drawn one to one. */
export function dialDegOf(scale: JointScale, target: number): number {
  const degPerTarget = scale.stops ? 1 : spinArcDeg;
  const reachDeg = scale.reach * degPerTarget;
  return Math.max(-reachDeg, Math.min(reachDeg, (target - scale.centre) * degPerTarget));
}

/** The target at a place on the dial. The inverse of `dialDegOf`. */
export const targetAtDialDeg = (scale: JointScale, dialDeg: number): number =>
  scale.centre + dialDeg / (scale.stops ? 1 : spinArcDeg);

/** How far the dial reaches below its hub: an arc of little more than a half needs little room there. */
export function dialFootOf(scale: JointScale): number {
  const reachDeg = dialDegOf(scale, scale.centre + scale.reach);
  return Math.max(34, pointAt(reachDeg, radius.outerLabel).y + 14);
}

export interface Point {
  readonly x: number;
  readonly y: number;
}

export const pointAt = (dialDeg: number, r: number): Point => {
  const angle = (dialDeg * Math.PI) / 180;
  return { x: r * Math.sin(angle), y: -r * Math.cos(angle) };
};

/** An SVG path along a circle from one dial angle to another, clockwise. */
export function arcPath(fromDeg: number, toDeg: number, r: number): string {
  const from = pointAt(fromDeg, r);
  const to = pointAt(toDeg, r);
  const isLong = toDeg - fromDeg > 180 ? 1 : 0;
  return `M${from.x.toFixed(2)} ${from.y.toFixed(2)}A${r} ${r} 0 ${isLong} 1 ${to.x.toFixed(2)} ${to.y.toFixed(2)}`;
}

/** A flat ring segment between two radii. */
export function bandPath(fromDeg: number, toDeg: number, inner: number, outer: number): string {
  const back = pointAt(toDeg, inner);
  const start = pointAt(fromDeg, inner);
  const isLong = toDeg - fromDeg > 180 ? 1 : 0;
  return `${arcPath(fromDeg, toDeg, outer)}L${back.x.toFixed(2)} ${back.y.toFixed(2)}A${inner} ${inner} 0 ${isLong} 0 ${start.x.toFixed(2)} ${start.y.toFixed(2)}Z`;
}

/** Round numbers from `low` to `high`, about `wanted` of them, with the step between them. */
export function roundTicks(low: number, high: number, wanted: number): { values: number[]; step: number } {
  const rough = (high - low) / wanted;
  const power = 10 ** Math.floor(Math.log10(rough));
  const step = ([1, 2, 5, 10].find((factor) => factor * power >= rough) ?? 10) * power;
  return { values: everyStep(low, high, step), step };
}

/** Whole multiples of `step` within [low, high]. */
export function everyStep(low: number, high: number, step: number): number[] {
  const values: number[] = [];
  const last = Math.floor(high / step + 1e-9);
  for (let index = Math.ceil(low / step - 1e-9); index <= last; index += 1) values.push(index * step);
  return values;
}
