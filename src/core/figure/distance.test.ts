import { hullOf, type Shape } from "@core/shapes";
import { expect, test } from "vitest";
import { distanceOf, nearness } from "./distance";
import { seeded } from "./fixtures";
import { type Frames, frameOfPlace, frameSize } from "./frames";

const none = () => undefined;

function frame(atMm: [number, number, number], turnDeg: [number, number, number] = [0, 0, 0]): Frames {
  const made = new Float64Array(frameSize);
  frameOfPlace({ atMm, turnDeg }, made);
  return made;
}

const between = (a: Shape, atA: Frames, b: Shape, atB: Frames, enoughMm?: number) =>
  distanceOf(hullOf(a, none), atA, 0, hullOf(b, none), atB, 0, nearness(), enoughMm);

test("distances that can be seen on paper", () => {
  const box: Shape = { kind: "box", sizeMm: [20, 20, 20] };
  const ball: Shape = { kind: "ball", radiusMm: 5 };
  const rod: Shape = { kind: "rod", radiusMm: 4, lengthMm: 30 };
  expect(between(box, frame([0, 0, 0]), box, frame([50, 0, 0]))).toBeCloseTo(30, 9);
  // Corner to corner: √3 times a gap of 10 along each axis.
  expect(between(box, frame([0, 0, 0]), box, frame([30, 30, 30]))).toBeCloseTo(10 * Math.sqrt(3), 9);
  // Standing on its edge a box reaches 10·√2 up.
  expect(between(box, frame([0, 0, 0]), box, frame([0, 0, 40], [45, 0, 0]))).toBeCloseTo(30 - 10 * Math.SQRT2, 9);
  expect(between(ball, frame([0, 0, 0]), ball, frame([3, 4, 0]))).toBe(0);
  expect(between(ball, frame([0, 0, 0]), ball, frame([0, 12, 16]))).toBeCloseTo(10, 9);
  // A rod that lies along y, beside a ball.
  expect(between(rod, frame([0, 0, 0], [90, 0, 0]), ball, frame([20, 10, 0]))).toBeCloseTo(11, 9);
  expect(between(box, frame([0, 0, 0]), rod, frame([0, 0, 24.9]))).toBe(0);
  expect(
    between({ kind: "cone", radiusMm: 10, topRadiusMm: 0, lengthMm: 20 }, frame([0, 0, 0]), ball, frame([0, 0, 40])),
  ).toBeCloseTo(25, 9);
});

/** The same by hand: how far a body reaches along a direction, worked out from what it is. */
function reach(shape: Shape, at: Frames, direction: readonly number[]): number {
  const [x, y, z] = [0, 1, 2].map((column) =>
    [0, 1, 2].reduce((sum, row) => sum + (at[3 * row + column] as number) * (direction[row] as number), 0),
  ) as [number, number, number];
  const origin = [9, 10, 11].reduce((sum, row, index) => sum + (at[row] as number) * (direction[index] as number), 0);
  if (shape.kind === "ball") return origin + shape.radiusMm;
  if (shape.kind === "box") {
    const [a, b, c] = shape.sizeMm;
    return origin + (Math.abs(x) * a + Math.abs(y) * b + Math.abs(z) * c) / 2;
  }
  if (shape.kind === "rod") return origin + Math.hypot(x, y) * shape.radiusMm + (Math.abs(z) * shape.lengthMm) / 2;
  if (shape.kind === "cone") {
    const flat = Math.hypot(x, y);
    return (
      origin +
      Math.max((-z * shape.lengthMm) / 2 + flat * shape.radiusMm, (z * shape.lengthMm) / 2 + flat * shape.topRadiusMm)
    );
  }
  if (shape.kind === "plate")
    return origin + Math.max(...shape.outlineMm.map(([px, py]) => px * x + py * y)) + (Math.abs(z) * shape.thickMm) / 2;
  return origin;
}

/** How far a place lies outside a body, in mm: 0 or less within. */
function outside(shape: Shape, at: Frames, place: ArrayLike<number>): number {
  const gap = [0, 1, 2].map((row) => (place[row] as number) - (at[9 + row] as number));
  const [x, y, z] = [0, 1, 2].map((column) =>
    gap.reduce((sum, value, row) => sum + value * (at[3 * row + column] as number), 0),
  ) as [number, number, number];
  if (shape.kind === "ball") return Math.hypot(x, y, z) - shape.radiusMm;
  if (shape.kind === "box")
    return Math.max(
      Math.abs(x) - shape.sizeMm[0] / 2,
      Math.abs(y) - shape.sizeMm[1] / 2,
      Math.abs(z) - shape.sizeMm[2] / 2,
    );
  if (shape.kind === "rod") return Math.max(Math.hypot(x, y) - shape.radiusMm, Math.abs(z) - shape.lengthMm / 2);
  if (shape.kind === "cone") {
    const share = z / shape.lengthMm + 0.5;
    const radius = shape.radiusMm + share * (shape.topRadiusMm - shape.radiusMm);
    return Math.max(Math.hypot(x, y) - radius, Math.abs(z) - shape.lengthMm / 2);
  }
  if (shape.kind === "plate") {
    const edges = shape.outlineMm.map(([px, py], index) => {
      const [qx, qy] = shape.outlineMm[(index + 1) % shape.outlineMm.length] as readonly [number, number];
      return ((x - px) * (qy - py) - (y - py) * (qx - px)) / Math.hypot(qx - px, qy - py);
    });
    return Math.max(...edges, Math.abs(z) - shape.thickMm / 2);
  }
  return 0;
}

function anyShape(between: (low: number, high: number) => number): Shape {
  const size = () => between(1, 60);
  const kind = Math.floor(between(0, 5));
  if (kind === 0) return { kind: "box", sizeMm: [size(), size(), size()] };
  if (kind === 1) return { kind: "rod", radiusMm: size(), lengthMm: size() };
  if (kind === 2) return { kind: "ball", radiusMm: size() };
  if (kind === 3)
    return { kind: "cone", radiusMm: size(), topRadiusMm: between(0, 1) < 0.5 ? 0 : size(), lengthMm: size() };
  const corners = 3 + Math.floor(between(0, 5));
  const radius = size();
  return {
    kind: "plate",
    thickMm: between(0.5, 10),
    outlineMm: Array.from({ length: corners }, (_, at) => {
      const angle = (2 * Math.PI * (at + between(-0.3, 0.3))) / corners;
      return [radius * Math.cos(angle), radius * Math.sin(angle)] as [number, number];
    }),
  };
}

/**
 * A distance is proved from both sides, without the way in which it was found: the two places lie in their bodies, so it is no more than what lies between
 * them; and along the line through them there is a gap between what both reach, so it is no less.
 */
test("the distance of 100 000 pairs is proved by their nearest places and by a plane between them", () => {
  const random = seeded(20_261_126);
  const out = nearness();
  let apart = 0;
  for (let pair = 0; pair < 100_000; pair += 1) {
    const [a, b] = [anyShape(random), anyShape(random)];
    const spin = () => [random(-180, 180), random(-90, 90), random(-180, 180)] as [number, number, number];
    const far = random(0, 160);
    const [atA, atB] = [
      frame([0, 0, 0], spin()),
      frame([random(-far, far), random(-far, far), random(-far, far)], spin()),
    ];
    const distance = distanceOf(hullOf(a, none), atA, 0, hullOf(b, none), atB, 0, out);
    const where = () => JSON.stringify({ pair, a, b, atA: [...atA], atB: [...atB], distance });
    if (distance === 0) {
      // Both hold the place of which it says so. Of a ball only its middle is sought, so for those there is no such place.
      const isRound = a.kind === "ball" || b.kind === "ball";
      if (!isRound && Math.max(outside(a, atA, out.onFirst), outside(b, atB, out.onFirst)) > 1e-3) expect.fail(where());
      continue;
    }
    apart += 1;
    const gap = [0, 1, 2].map((row) => (out.onSecond[row] as number) - (out.onFirst[row] as number));
    const length = Math.hypot(...gap);
    const direction = gap.map((value) => value / length);
    const back = direction.map((value) => -value);
    const proved = -reach(b, atB, back) - reach(a, atA, direction);
    if (outside(a, atA, out.onFirst) > 1e-6 || outside(b, atB, out.onSecond) > 1e-6) expect.fail(`outside: ${where()}`);
    if (Math.abs(length - distance) > 1e-6 || Math.abs(proved - distance) > 2e-5 * (1 + distance))
      expect.fail(`${length} and ${proved}: ${where()}`);
  }
  expect(apart).toBeGreaterThan(30_000);
});

test("who only asks whether they are further apart than that is told at once, and rightly", () => {
  const random = seeded(5);
  for (let pair = 0; pair < 2000; pair += 1) {
    const [a, b] = [anyShape(random), anyShape(random)];
    const [atA, atB] = [frame([0, 0, 0]), frame([random(-150, 150), random(-150, 150), 0], [random(-180, 180), 0, 0])];
    const whole = between(a, atA, b, atB);
    expect(between(a, atA, b, atB, 10) > 10, JSON.stringify({ a, b, whole })).toBe(whole > 10);
  }
});
