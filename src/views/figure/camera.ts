import type { Vector } from "@core/shapes";

/** From where a figure is looked at: turned to the side, raised, and how far away, about a place that stands in the middle. */
export interface Outlook {
  readonly middleMm: Vector;
  /** 0 looks from the front (from +x), 90 from its left (+y). */
  readonly aroundDeg: number;
  readonly upDeg: number;
  readonly farMm: number;
}

/** Looks from the front with a glance down, as people sit at a bench. */
export const frontal = { aroundDeg: 0, upDeg: 9 } as const;

/** Half of what is seen, up or down, is this share of the distance: a long lens, so that nothing leans. */
const opening = Math.tan((14 * Math.PI) / 180);

/** An outlook as a picture of a size: where in it (px) a place of the world is seen. */
export class Camera {
  readonly eye: Vector;
  readonly #right: Vector;
  readonly #up: Vector;
  readonly #ahead: Vector;
  readonly #outlook: Outlook;
  #widthPx: number;
  #heightPx: number;

  constructor(outlook: Outlook, widthPx: number, heightPx: number) {
    const [around, up] = [(outlook.aroundDeg * Math.PI) / 180, (outlook.upDeg * Math.PI) / 180];
    const towards: Vector = [Math.cos(around) * Math.cos(up), Math.sin(around) * Math.cos(up), Math.sin(up)];
    this.#outlook = outlook;
    this.#ahead = [-towards[0], -towards[1], -towards[2]];
    this.#right = [-Math.sin(around), Math.cos(around), 0];
    this.#up = [-Math.cos(around) * Math.sin(up), -Math.sin(around) * Math.sin(up), Math.cos(up)];
    const [x, y, z] = outlook.middleMm;
    this.eye = [x + towards[0] * outlook.farMm, y + towards[1] * outlook.farMm, z + towards[2] * outlook.farMm];
    this.#widthPx = widthPx;
    this.#heightPx = heightPx;
  }

  /** How far a place lies before the eye, in mm. */
  depth(x: number, y: number, z: number): number {
    const [ex, ey, ez] = this.eye;
    return (x - ex) * this.#ahead[0] + (y - ey) * this.#ahead[1] + (z - ez) * this.#ahead[2];
  }

  /** px for one mm at this depth. */
  scaleAt(depthMm: number): number {
    return this.#heightPx / 2 / (opening * Math.max(1, depthMm));
  }

  /** Writes where a place is seen (px, down from the top), and gives its depth. */
  see(x: number, y: number, z: number, out: Float64Array, at = 0): number {
    const [ex, ey, ez] = this.eye;
    const [dx, dy, dz] = [x - ex, y - ey, z - ez];
    const depth = dx * this.#ahead[0] + dy * this.#ahead[1] + dz * this.#ahead[2];
    const scale = this.scaleAt(depth);
    out[at] = this.#widthPx / 2 + (dx * this.#right[0] + dy * this.#right[1]) * scale;
    out[at + 1] = this.#heightPx / 2 - (dx * this.#up[0] + dy * this.#up[1] + dz * this.#up[2]) * scale;
    return depth;
  }

  /** How far to the right and up of the middle, in mm, a way in the picture (px) is, in the plane through the middle. */
  wayOf(dxPx: number, dyPx: number, depthMm: number): Vector {
    const scale = this.scaleAt(depthMm);
    const [right, up] = [dxPx / scale, -dyPx / scale];
    return [this.#right[0] * right + this.#up[0] * up, this.#right[1] * right + this.#up[1] * up, this.#up[2] * up];
  }

  get outlook(): Outlook {
    return this.#outlook;
  }
}

/** A ball in the world: its middle and its radius, in mm. */
export type Ball = readonly [number, number, number, number];

/** The nearest outlook in this direction from which all of these balls are seen in a picture of a size. */
export function fitted(
  balls: readonly Ball[],
  direction: Pick<Outlook, "aroundDeg" | "upDeg">,
  widthPx: number,
  heightPx: number,
): Outlook {
  if (balls.length === 0) return { ...direction, middleMm: [0, 0, 60], farMm: 900 };
  const ends = [0, 1, 2].map((axis) => [
    Math.min(...balls.map((ball) => (ball[axis] as number) - ball[3])),
    Math.max(...balls.map((ball) => (ball[axis] as number) + ball[3])),
  ]);
  const middle = ends.map(([low = 0, high = 0]) => (low + high) / 2);
  let outlook: Outlook = { ...direction, middleMm: [middle[0] ?? 0, middle[1] ?? 0, middle[2] ?? 0], farMm: 1000 };
  const seen = new Float64Array(2);
  // Moving back and to the middle of what is seen, again and again, comes to rest quickly.
  for (let round = 0; round < 12; round += 1) {
    const camera = new Camera(outlook, widthPx, heightPx);
    let [left, right, top, bottom] = [Number.POSITIVE_INFINITY, -1e9, Number.POSITIVE_INFINITY, -1e9];
    for (const [x, y, z, radius] of balls) {
      const depth = camera.see(x, y, z, seen);
      const reach = radius * camera.scaleAt(depth);
      left = Math.min(left, (seen[0] as number) - reach);
      right = Math.max(right, (seen[0] as number) + reach);
      top = Math.min(top, (seen[1] as number) - reach);
      bottom = Math.max(bottom, (seen[1] as number) + reach);
    }
    const tight = Math.max((right - left) / (widthPx * 0.94), (bottom - top) / (heightPx * 0.94));
    const off = camera.wayOf((left + right - widthPx) / 2, (top + bottom - heightPx) / 2, outlook.farMm);
    outlook = {
      ...outlook,
      farMm: Math.max(120, Math.min(40_000, outlook.farMm * tight)),
      middleMm: [outlook.middleMm[0] + off[0], outlook.middleMm[1] + off[1], outlook.middleMm[2] + off[2]],
    };
  }
  return outlook;
}
