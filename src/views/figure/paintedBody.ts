import { type Frames, frameOfPlace, frameSize, joinFrames } from "@core/figure";
import type { Body } from "@core/project";
import { type Facets, facetsOf, type MeshOf, type Shape } from "@core/shapes";
import type { Ball, Camera } from "./camera";

/** The edges of everything: a dark line, so that a picture reads like a drawing. */
const edge = "#14110c";
/** From where light falls, as a direction of length 1: from the left, above and before. */
const light = [0.62, -0.42, 0.66] as const;
/** Where the ball that is looked at is seen, in px; written over at each look. */
const middle = new Float64Array(2);

/** One body of a figure, ready to be painted onto a canvas: flat faces, lit from one side; what is round by its outline. */
export class PaintedBody {
  readonly rest: Frames = new Float64Array(frameSize);
  readonly frame: Frames = new Float64Array(frameSize);
  /** The two corners of its box, in its own frame, in mm: low x, y, z, high x, y, z. */
  readonly #boxMm: Float64Array;
  /** How far it lies before the eye; set by `look`. */
  depthMm = 0;
  /** Painted things lie on what they are painted on. */
  readonly #nearerMm: number;
  readonly #shape: Shape;
  readonly #facets: Facets;
  readonly #rgb: readonly [number, number, number];
  readonly #world: Float64Array;
  readonly #seen: Float64Array;
  readonly #shades = new Map<number, string>();

  constructor({ shape, color, place, isSolid }: Pick<Body, "shape" | "color" | "place" | "isSolid">, meshOf: MeshOf) {
    frameOfPlace(place, this.rest);
    this.#shape = shape;
    this.#nearerMm = isSolid ? 0 : 14;
    this.#facets = facetsOf(shape, meshOf);
    this.#boxMm = boxOf(this.#facets.corners);
    this.#rgb = [1, 3, 5].map((at) => Number.parseInt(color.slice(at, at + 2), 16)) as [number, number, number];
    this.#world = new Float64Array(this.#facets.corners.length);
    this.#seen = new Float64Array((this.#facets.corners.length / 3) * 2);
  }

  /** Stands it on its part, which stands in `frames` at `at`. */
  stand(frames: Frames, at: number): void {
    joinFrames(frames, at, this.rest, 0, this.frame, 0);
  }

  /** Balls (x, y, z, radius in mm) that show how far it goes where it stands: itself, or the corners of its box. */
  get balls(): readonly Ball[] {
    const f = this.frame;
    if (this.#shape.kind === "ball")
      return [[f[9] as number, f[10] as number, f[11] as number, this.#shape.radiusMm] as const];
    const box = this.#boxMm;
    return Array.from({ length: 8 }, (_, corner) => {
      const [x = 0, y = 0, z = 0] = [0, 1, 2].map((axis) => box[axis + ((corner >> axis) & 1) * 3]);
      const along = (row: number) =>
        (f[3 * row] as number) * x +
        (f[3 * row + 1] as number) * y +
        (f[3 * row + 2] as number) * z +
        (f[9 + row] as number);
      return [along(0), along(1), along(2), 0] as const;
    });
  }

  /** Works out where it is seen. */
  look(camera: Camera): void {
    const f = this.frame;
    this.depthMm = camera.depth(f[9] as number, f[10] as number, f[11] as number) - this.#nearerMm;
    const { corners } = this.#facets;
    for (let at = 0; at < corners.length; at += 3) {
      const [x, y, z] = [corners[at] as number, corners[at + 1] as number, corners[at + 2] as number];
      for (let row = 0; row < 3; row += 1)
        this.#world[at + row] =
          (f[3 * row] as number) * x +
          (f[3 * row + 1] as number) * y +
          (f[3 * row + 2] as number) * z +
          (f[9 + row] as number);
      camera.see(
        this.#world[at] as number,
        this.#world[at + 1] as number,
        this.#world[at + 2] as number,
        this.#seen,
        (at / 3) * 2,
      );
    }
  }

  /** Widens bounds (left, top, right, bottom, in px) by what it covers where it was looked at last. */
  widen(bounds: Float64Array, camera: Camera): void {
    const radiusPx = this.#lookAtBall(camera);
    const seen = radiusPx > 0 ? middle : this.#seen;
    for (let at = 0; at < seen.length; at += 1) {
      const [low, high] = [at & 1, (at & 1) + 2];
      bounds[low] = Math.min(bounds[low] as number, (seen[at] as number) - radiusPx);
      bounds[high] = Math.max(bounds[high] as number, (seen[at] as number) + radiusPx);
    }
  }

  paint(to: CanvasRenderingContext2D, camera: Camera): void {
    to.strokeStyle = edge;
    to.lineWidth = Math.min(1.4, Math.max(0.5, 1.1 * camera.scaleAt(this.depthMm)));
    to.lineJoin = "round";
    const { kind } = this.#shape;
    if (kind === "ball") this.#paintBall(to, camera);
    else if (kind === "rod" || kind === "cone") this.#paintRound(to);
    else for (const face of this.#facets.faces) this.#paintFace(to, face, kind !== "mesh");
  }

  /** Where a ball is seen (`middle`), and its radius in px; 0 for what is none. */
  #lookAtBall(camera: Camera): number {
    if (this.#shape.kind !== "ball") return 0;
    const f = this.frame;
    return this.#shape.radiusMm * camera.scaleAt(camera.see(f[9] as number, f[10] as number, f[11] as number, middle));
  }

  #paintBall(to: CanvasRenderingContext2D, camera: Camera): void {
    const radiusPx = this.#lookAtBall(camera);
    to.beginPath();
    to.arc(middle[0] as number, middle[1] as number, radiusPx, 0, 2 * Math.PI);
    to.fillStyle = this.#shade(0.9);
    to.fill();
    to.stroke();
  }

  /** What is round is its outline, and the end of it that is seen. */
  #paintRound(to: CanvasRenderingContext2D): void {
    const seen = this.#seen;
    const count = seen.length / 2;
    const order = around(seen, count);
    to.beginPath();
    for (const place of order) to.lineTo(seen[2 * place] as number, seen[2 * place + 1] as number);
    to.closePath();
    to.fillStyle = this.#shade(this.#sideLight());
    to.fill();
    to.stroke();
    for (const face of this.#facets.faces.slice(0, 2)) this.#paintFace(to, face, true);
  }

  /** How light falls on what is round: the less the more it stands along it. */
  #sideLight(): number {
    const f = this.frame;
    const along = (f[2] as number) * light[0] + (f[5] as number) * light[1] + (f[8] as number) * light[2];
    return 0.62 + 0.3 * Math.sqrt(Math.max(0, 1 - along * along));
  }

  #paintFace(to: CanvasRenderingContext2D, face: readonly number[], hasEdge: boolean): void {
    const seen = this.#seen;
    // What runs to the left in the picture is seen from outside. The picture's y goes down, so its sign is turned.
    let area = 0;
    for (let at = 0; at < face.length; at += 1) {
      const a = 2 * (face[at] as number);
      const b = 2 * (face[(at + 1) % face.length] as number);
      area += (seen[a] as number) * (seen[b + 1] as number) - (seen[b] as number) * (seen[a + 1] as number);
    }
    if (area > -0.05) return;
    to.beginPath();
    for (const place of face) to.lineTo(seen[2 * place] as number, seen[2 * place + 1] as number);
    to.closePath();
    to.fillStyle = this.#shade(this.#faceLight(face));
    to.fill();
    if (hasEdge) to.stroke();
    else {
      to.strokeStyle = to.fillStyle;
      to.stroke();
      to.strokeStyle = edge;
    }
  }

  #faceLight(face: readonly number[]): number {
    const w = this.#world;
    const [a, b, c] = [3 * (face[0] as number), 3 * (face[1] as number), 3 * (face[2] as number)];
    const u = [0, 1, 2].map((row) => (w[b + row] as number) - (w[a + row] as number)) as [number, number, number];
    const v = [0, 1, 2].map((row) => (w[c + row] as number) - (w[a + row] as number)) as [number, number, number];
    const n = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]] as const;
    const length = Math.hypot(...n) || 1;
    return 0.6 + 0.4 * Math.max(0, (n[0] * light[0] + n[1] * light[1] + n[2] * light[2]) / length);
  }

  /** Its colour in a light of 0 to 1, in 32 steps: strings are made once. */
  #shade(share: number): string {
    const step = Math.round(Math.max(0, Math.min(1, share)) * 32);
    const known = this.#shades.get(step);
    if (known) return known;
    const made = `rgb(${this.#rgb.map((value) => Math.round((value * step) / 32)).join(" ")})`;
    this.#shades.set(step, made);
    return made;
  }
}

/** The corners that lie outermost in a picture, one after another all round. Source: Andrew's monotone chain. */
function around(seen: Float64Array, count: number): readonly number[] {
  const order = Array.from({ length: count }, (_, at) => at).sort(
    (a, b) =>
      (seen[2 * a] as number) - (seen[2 * b] as number) || (seen[2 * a + 1] as number) - (seen[2 * b + 1] as number),
  );
  const turnsLeft = (a: number, b: number, c: number) =>
    ((seen[2 * b] as number) - (seen[2 * a] as number)) * ((seen[2 * c + 1] as number) - (seen[2 * a + 1] as number)) -
      ((seen[2 * b + 1] as number) - (seen[2 * a + 1] as number)) *
        ((seen[2 * c] as number) - (seen[2 * a] as number)) >
    0;
  const half = (places: readonly number[]) => {
    const kept: number[] = [];
    for (const place of places) {
      while (kept.length > 1 && !turnsLeft(kept[kept.length - 2] as number, kept[kept.length - 1] as number, place))
        kept.pop();
      kept.push(place);
    }
    kept.pop();
    return kept;
  };
  return [...half(order), ...half(order.toReversed())];
}

/** The box around corners, along their own axes; no wider than a point where there are none. */
function boxOf(corners: ArrayLike<number>): Float64Array {
  const box = new Float64Array(6);
  if (corners.length === 0) return box;
  box.fill(Number.POSITIVE_INFINITY, 0, 3).fill(Number.NEGATIVE_INFINITY, 3);
  for (let at = 0; at < corners.length; at += 1) {
    const [axis, value] = [at % 3, corners[at] as number];
    box[axis] = Math.min(box[axis] as number, value);
    box[axis + 3] = Math.max(box[axis + 3] as number, value);
  }
  return box;
}
