import type { Hull } from "@core/shapes";
import type { Frames } from "./frames";

/** How near two bodies come. */
export interface Nearness {
  /** Between their surfaces, in mm; 0 where they touch or lie in one another. */
  distanceMm: number;
  /** The places of both that are nearest to each other, in the world; where they meet, a place within both. */
  readonly onFirst: Float64Array;
  readonly onSecond: Float64Array;
}

export const nearness = (): Nearness => ({
  distanceMm: 0,
  onFirst: new Float64Array(3),
  onSecond: new Float64Array(3),
});

/** A simplex of up to four corners of the bodies' difference: the corner itself, the place on the first and the weight of each. */
const corners = new Float64Array(12);
const firsts = new Float64Array(12);
const weights = new Float64Array(4);
let size = 0;

const local = new Float64Array(3);
const onA = new Float64Array(3);
const onB = new Float64Array(3);
const nearest = new Float64Array(3);

/** Below this, squared and in mm², two bodies are taken to touch. */
const touchMm2 = 1e-10;
const mostRounds = 64;

/**
 * The distance between two convex bodies, by the way of Gilbert, Johnson and Keerthi: the nearest place to the origin of their difference, sought on a simplex that
 * moves over it. With `enoughMm` it stops as soon as they are known to be further apart than that, and gives a distance that is too small but larger than it.
 */
export function distanceOf(
  a: Hull,
  framesA: Frames,
  atA: number,
  b: Hull,
  framesB: Frames,
  atB: number,
  out: Nearness,
  enoughMm = Number.POSITIVE_INFINITY,
): number {
  const round = a.roundMm + b.roundMm;
  size = 0;
  nearest[0] = (framesA[atA + 9] as number) - (framesB[atB + 9] as number);
  nearest[1] = (framesA[atA + 10] as number) - (framesB[atB + 10] as number);
  nearest[2] = (framesA[atA + 11] as number) - (framesB[atB + 11] as number);
  if (dot(nearest, 0, nearest, 0) < touchMm2) nearest[0] = 1;
  let isMet = false;
  for (let turn = 0; turn < mostRounds; turn += 1) {
    const [x, y, z] = [nearest[0] as number, nearest[1] as number, nearest[2] as number];
    support(a, framesA, atA, -x, -y, -z, onA);
    support(b, framesB, atB, x, y, z, onB);
    const wx = (onA[0] as number) - (onB[0] as number);
    const wy = (onA[1] as number) - (onB[1] as number);
    const wz = (onA[2] as number) - (onB[2] as number);
    const far2 = x * x + y * y + z * z;
    const along = x * wx + y * wy + z * wz;
    // No place of the difference is nearer than this plane.
    const least = along / Math.sqrt(far2);
    if (least - round > enoughMm) return finish(out, a, b, least - round);
    if (size > 0 && (far2 - along <= 1e-11 * far2 + 1e-12 || isKnown(wx, wy, wz))) break;
    const at = 3 * size;
    corners[at] = wx;
    corners[at + 1] = wy;
    corners[at + 2] = wz;
    firsts[at] = onA[0] as number;
    firsts[at + 1] = onA[1] as number;
    firsts[at + 2] = onA[2] as number;
    size += 1;
    const wasFar2 = far2;
    isMet = reduce();
    const now2 = dot(nearest, 0, nearest, 0);
    if (isMet || now2 < touchMm2) {
      isMet = true;
      break;
    }
    // Rounding has it go round and round: it is there.
    if (size > 1 && turn > 0 && now2 >= wasFar2 * (1 - 1e-13)) break;
  }
  const far = isMet ? 0 : Math.sqrt(dot(nearest, 0, nearest, 0));
  return finish(out, a, b, far - round);
}

function finish(out: Nearness, a: Hull, b: Hull, distance: number): number {
  const far = Math.sqrt(dot(nearest, 0, nearest, 0)) || 1;
  for (let row = 0; row < 3; row += 1) {
    let first = 0;
    for (let at = 0; at < size; at += 1) first += (weights[at] as number) * (firsts[3 * at + row] as number);
    const gap = nearest[row] as number;
    out.onFirst[row] = first - (gap / far) * a.roundMm;
    out.onSecond[row] = first - gap + (gap / far) * b.roundMm;
  }
  out.distanceMm = Math.max(0, distance);
  return out.distanceMm;
}

function support(hull: Hull, frames: Frames, at: number, x: number, y: number, z: number, out: Float64Array): void {
  const f = frames;
  hull.support(
    (f[at] as number) * x + (f[at + 3] as number) * y + (f[at + 6] as number) * z,
    (f[at + 1] as number) * x + (f[at + 4] as number) * y + (f[at + 7] as number) * z,
    (f[at + 2] as number) * x + (f[at + 5] as number) * y + (f[at + 8] as number) * z,
    local,
  );
  const [lx, ly, lz] = [local[0] as number, local[1] as number, local[2] as number];
  for (let row = 0; row < 3; row += 1)
    out[row] =
      (f[at + 3 * row] as number) * lx +
      (f[at + 3 * row + 1] as number) * ly +
      (f[at + 3 * row + 2] as number) * lz +
      (f[at + 9 + row] as number);
}

function isKnown(x: number, y: number, z: number): boolean {
  for (let at = 0; at < size; at += 1)
    if (corners[3 * at] === x && corners[3 * at + 1] === y && corners[3 * at + 2] === z) return true;
  return false;
}

const dot = (a: Float64Array, atA: number, b: Float64Array, atB: number): number =>
  (a[atA] as number) * (b[atB] as number) +
  (a[atA + 1] as number) * (b[atB + 1] as number) +
  (a[atA + 2] as number) * (b[atB + 2] as number);

/** Every set of corners that can carry the nearest place, smallest first. */
const subsets: readonly (readonly number[])[][] = [1, 2, 3, 4].map((count) =>
  Array.from({ length: 2 ** count - 1 }, (_, index) => index + 1)
    .map((mask) => [0, 1, 2, 3].filter((at) => mask & (1 << at)))
    .sort((a, b) => a.length - b.length),
);

const trial = new Float64Array(4);

/** Four numbers one by one: `set` takes several times as long. */
function keepWeights(): void {
  weights[0] = trial[0] as number;
  weights[1] = trial[1] as number;
  weights[2] = trial[2] as number;
  weights[3] = trial[3] as number;
}

/**
 * Keeps of the simplex only the corners that carry its place nearest to the origin, which is written into `nearest`. Gives true where the origin lies within
 * the whole of it. Each set of corners is asked for the nearest place of its line, plane or space; one with all weights above 0 is right if no other is nearer.
 */
function reduce(): boolean {
  let best: readonly number[] | null = null;
  let bestFar2 = Number.POSITIVE_INFINITY;
  let [bx, by, bz] = [0, 0, 0];
  for (const set of subsets[size - 1] as readonly (readonly number[])[]) {
    if (!weigh(set)) continue;
    if (set.length === 4) {
      keepWeights();
      nearest.fill(0);
      return true;
    }
    let [x, y, z] = [0, 0, 0];
    for (let index = 0; index < set.length; index += 1) {
      const at = 3 * (set[index] as number);
      const weight = trial[index] as number;
      x += weight * (corners[at] as number);
      y += weight * (corners[at + 1] as number);
      z += weight * (corners[at + 2] as number);
    }
    const far2 = x * x + y * y + z * z;
    if (far2 >= bestFar2) continue;
    bestFar2 = far2;
    best = set;
    [bx, by, bz] = [x, y, z];
    keepWeights();
  }
  nearest[0] = bx;
  nearest[1] = by;
  nearest[2] = bz;
  const kept = best ?? [0];
  for (let index = 0; index < kept.length; index += 1) {
    const from = 3 * (kept[index] as number);
    for (let row = 0; row < 3; row += 1) {
      corners[3 * index + row] = corners[from + row] as number;
      firsts[3 * index + row] = firsts[from + row] as number;
    }
  }
  size = kept.length;
  return false;
}

/** Writes the weights with which these corners make the place of their line, plane or space that is nearest to the origin. False where one is not above 0. */
function weigh(set: readonly number[]): boolean {
  const a = 3 * (set[0] as number);
  if (set.length === 1) {
    trial[0] = 1;
    return true;
  }
  // Gram's equations of the edges from the first corner.
  const count = set.length - 1;
  for (let i = 0; i < count; i += 1) {
    const at = 3 * (set[i + 1] as number);
    for (let row = 0; row < 3; row += 1)
      edges[3 * i + row] = (corners[at + row] as number) - (corners[a + row] as number);
    rights[i] = -dot(edges, 3 * i, corners, a);
  }
  for (let i = 0; i < count; i += 1)
    for (let j = 0; j < count; j += 1) gram[3 * i + j] = dot(edges, 3 * i, edges, 3 * j);
  if (!solveSmall(count)) return false;
  let first = 1;
  for (let i = 0; i < count; i += 1) {
    const weight = rights[i] as number;
    if (!(weight > 0)) return false;
    trial[i + 1] = weight;
    first -= weight;
  }
  trial[0] = first;
  return first > 0;
}

const edges = new Float64Array(9);
const gram = new Float64Array(9);
const rights = new Float64Array(3);

/** Solves up to three symmetric equations where they stand. False where they do not tell the unknowns apart. */
function solveSmall(count: number): boolean {
  for (let i = 0; i < count; i += 1) {
    const pivot = gram[4 * i] as number;
    if (!(pivot > 1e-14)) return false;
    for (let j = i + 1; j < count; j += 1) {
      const share = (gram[3 * j + i] as number) / pivot;
      for (let k = i; k < count; k += 1)
        gram[3 * j + k] = (gram[3 * j + k] as number) - share * (gram[3 * i + k] as number);
      rights[j] = (rights[j] as number) - share * (rights[i] as number);
    }
  }
  for (let i = count - 1; i >= 0; i -= 1) {
    let sum = rights[i] as number;
    for (let k = i + 1; k < count; k += 1) sum -= (gram[3 * i + k] as number) * (rights[k] as number);
    rights[i] = sum / (gram[4 * i] as number);
  }
  return true;
}
