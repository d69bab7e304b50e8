import type { Described, KindSchema, ValueOf } from "@core/schema";
import { between } from "@core/schema";
import type { Mesh } from "./meshData";

/** A place or a direction: x forward, y to the left, z up. */
export type Vector = readonly [number, number, number];

/** Lengths of bodies in mm: from a tenth of a millimetre to ten metres. */
export const sizeMm = between(0.1, 10_000);

/**
 * A convex body as others reckon with it: the furthest of its points along any direction. `round` grows it on all sides, so a ball is a point that is round.
 * The directions that are asked need not have the length 1.
 */
export interface Hull {
  /** Writes the point of the body, in its own frame, that lies furthest along (x, y, z). */
  readonly support: (x: number, y: number, z: number, out: Float64Array) => void;
  readonly roundMm: number;
  /** All of it lies within this of its own origin, `roundMm` included. */
  readonly reachMm: number;
}

/** A body with flat faces, to be drawn: corners (x, y, z one after another) and faces whose corners run to the left, seen from outside. */
export interface Facets {
  readonly corners: Float64Array;
  readonly faces: readonly (readonly number[])[];
}

/** A kind of body: box, rod, ball… Its origin lies in its middle, and what is long lies along z. */
export interface ShapeKind<Schema extends KindSchema> extends Described<Schema> {
  readonly name: string;
  /** One of a size that is seen beside a servo. */
  readonly begin: () => ValueOf<Schema> | null;
  readonly hull: (shape: ValueOf<Schema>, meshOf: MeshOf) => Hull;
  readonly facets: (shape: ValueOf<Schema>, meshOf: MeshOf) => Facets;
  /** Its volume in mm³, and its moments of inertia about x, y and z for a mass of 1, in mm². */
  readonly volumeMm3: (shape: ValueOf<Schema>, meshOf: MeshOf) => number;
  readonly spreadMm2: (shape: ValueOf<Schema>, meshOf: MeshOf) => Vector;
  /** The same turned over its x-z plane: left becomes right. */
  readonly mirrored: (shape: ValueOf<Schema>) => ValueOf<Schema>;
}

/** Finds a mesh of the project; a body whose mesh is gone is nothing. */
export type MeshOf = (meshId: string) => Mesh | undefined;

/** Corners on a circle, for facets. */
export const roundness = 20;

/** The hull of corners: the furthest of them, found by looking at all. */
export function hullOfCorners(corners: Float64Array): Hull {
  let reach = 0;
  for (let at = 0; at < corners.length; at += 3)
    reach = Math.max(reach, Math.hypot(corners[at] as number, corners[at + 1] as number, corners[at + 2] as number));
  return {
    roundMm: 0,
    reachMm: reach,
    support: (x, y, z, out) => {
      let best = Number.NEGATIVE_INFINITY;
      let found = 0;
      for (let at = 0; at < corners.length; at += 3) {
        const far = x * (corners[at] as number) + y * (corners[at + 1] as number) + z * (corners[at + 2] as number);
        if (far > best) {
          best = far;
          found = at;
        }
      }
      out[0] = corners[found] ?? 0;
      out[1] = corners[found + 1] ?? 0;
      out[2] = corners[found + 2] ?? 0;
    },
  };
}

/** Facets of a column between two outlines with as many corners, at −half and +half along z. */
export function column(lower: readonly (readonly [number, number])[], upper: typeof lower, half: number): Facets {
  const count = lower.length;
  const corners = new Float64Array(6 * count);
  for (let at = 0; at < count; at += 1) {
    corners.set([...(lower[at] as [number, number]), -half], 3 * at);
    corners.set([...(upper[at] as [number, number]), half], 3 * (count + at));
  }
  const places = Array.from({ length: count }, (_, at) => at);
  return {
    corners,
    faces: [
      [...places].reverse(),
      places.map((at) => count + at),
      ...places.map((at) => [at, (at + 1) % count, count + ((at + 1) % count), count + at]),
    ],
  };
}

/** An outline of a circle. */
export const circle = (radius: number): [number, number][] =>
  Array.from({ length: roundness }, (_, at) => {
    const angle = (2 * Math.PI * at) / roundness;
    return [radius * Math.cos(angle), radius * Math.sin(angle)];
  });
