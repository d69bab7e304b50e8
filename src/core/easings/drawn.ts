import { between } from "@core/schema";
import * as z from "zod/mini";
import type { EasedCurve, EasingKind } from "./easingKind";
import { hermite, monotoneSlopes } from "./monotone";

/** Drawn by hand: shares of the way over shares of the time, from 0, 0 to 1, 1. */
const schema = z.strictObject({
  kind: z.literal("drawn"),
  points: z
    .array(z.strictObject({ x: between(0, 1), y: between(-1, 2) }))
    .check(z.minLength(2), z.maxLength(50))
    .check(
      z.refine(
        (points) =>
          points.every((point, at) => at === 0 || point.x > (points[at - 1]?.x ?? 1)) &&
          points[0]?.x === 0 &&
          points[0].y === 0 &&
          points.at(-1)?.x === 1 &&
          points.at(-1)?.y === 1,
        { error: "a drawn easing runs from 0, 0 to 1, 1, from left to right" },
      ),
    ),
});

/** A drawn curve is looked at in so many steps for its greatest speed. */
const looks = 2000;

export const drawn: EasingKind<typeof schema> = {
  schema,
  name: "drawn",
  begin: () => ({
    kind: "drawn",
    points: [
      { x: 0, y: 0 },
      { x: 0.35, y: 0.12 },
      { x: 0.7, y: 0.9 },
      { x: 1, y: 1 },
    ],
  }),
  curve: ({ points }) => drawnCurve(points),
  formula: ({ points }) => {
    const slopes = monotoneSlopes(
      points.map(({ x }) => x),
      points.map(({ y }) => y),
    );
    return points.slice(0, -1).map(({ x, y }, at) => {
      const next = points[at + 1] as (typeof points)[number];
      const width = next.x - x;
      const is = `hermite(${y}, ${slopes[at]}, ${next.y}, ${slopes[at + 1]}, ${width}, (s - ${x}) / ${width})`;
      return { until: at < points.length - 2 ? next.x : null, is };
    });
  },
  demand: ({ points }) => {
    const curve = drawnCurve(points);
    let peakRate = 0;
    for (let at = 0; at < looks; at += 1)
      peakRate = Math.max(peakRate, Math.abs(curve((at + 1) / looks) - curve(at / looks)) * looks);
    return { peakRate, peakAcceleration: Number.POSITIVE_INFINITY };
  },
};

function drawnCurve(points: readonly { readonly x: number; readonly y: number }[]): EasedCurve {
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
