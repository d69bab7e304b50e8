import type { Place } from "@core/project";
import type { Vector } from "@core/shapes";

/**
 * A **frame** is where something stands: twelve numbers, one after another in a longer list. The first nine are its turn, row by row (a row times a direction of
 * its own gives one of the other's), the last three its origin in mm. Nothing here makes an object: figures are worked out thousands of times a second.
 */
export const frameSize = 12;
export type Frames = Float64Array;

const rad = Math.PI / 180;

/** Writes a place as a frame. Roll, pitch and yaw are turns about the fixed x, y and z, one after another, as in URDF. */
export function frameOfPlace({ atMm, turnDeg }: Place, out: Frames, at = 0): void {
  const [roll, pitch, yaw] = turnDeg;
  const [sr, cr] = [Math.sin(roll * rad), Math.cos(roll * rad)];
  const [sp, cp] = [Math.sin(pitch * rad), Math.cos(pitch * rad)];
  const [sy, cy] = [Math.sin(yaw * rad), Math.cos(yaw * rad)];
  out[at] = cy * cp;
  out[at + 1] = cy * sp * sr - sy * cr;
  out[at + 2] = cy * sp * cr + sy * sr;
  out[at + 3] = sy * cp;
  out[at + 4] = sy * sp * sr + cy * cr;
  out[at + 5] = sy * sp * cr - cy * sr;
  out[at + 6] = -sp;
  out[at + 7] = cp * sr;
  out[at + 8] = cp * cr;
  out[at + 9] = atMm[0];
  out[at + 10] = atMm[1];
  out[at + 11] = atMm[2];
}

/** A frame as a place. Straight up or down, where roll and yaw are one turn, it is all yaw. */
export function placeOfFrame(frames: Frames, at = 0): Place {
  const m = (index: number) => frames[at + index] as number;
  const flat = Math.hypot(m(0), m(3));
  const pitch = Math.atan2(-m(6), flat);
  const isUpright = flat < 1e-9;
  const roll = isUpright ? 0 : Math.atan2(m(7), m(8));
  const yaw = isUpright ? Math.atan2(-m(1), m(4)) : Math.atan2(m(3), m(0));
  return { atMm: [m(9), m(10), m(11)], turnDeg: [roll / rad, pitch / rad, yaw / rad] };
}

/** out = a · b: what stands at b in a's frame, seen from where a is seen. `out` must be neither of them. */
export function joinFrames(a: Frames, atA: number, b: Frames, atB: number, out: Frames, at: number): void {
  for (let row = 0; row < 3; row += 1) {
    const x = a[atA + 3 * row] as number;
    const y = a[atA + 3 * row + 1] as number;
    const z = a[atA + 3 * row + 2] as number;
    for (let column = 0; column < 3; column += 1)
      out[at + 3 * row + column] =
        x * (b[atB + column] as number) + y * (b[atB + 3 + column] as number) + z * (b[atB + 6 + column] as number);
    out[at + 9 + row] =
      x * (b[atB + 9] as number) +
      y * (b[atB + 10] as number) +
      z * (b[atB + 11] as number) +
      (a[atA + 9 + row] as number);
  }
}

/** A turn about an axis of length 1, as a frame. Source: the formula of Rodrigues. */
export function frameOfTurn(axis: Vector, turnRad: number, out: Frames, at = 0): void {
  const [x, y, z] = axis;
  const c = Math.cos(turnRad);
  const s = Math.sin(turnRad);
  const v = 1 - c;
  out[at] = c + x * x * v;
  out[at + 1] = x * y * v - z * s;
  out[at + 2] = x * z * v + y * s;
  out[at + 3] = y * x * v + z * s;
  out[at + 4] = c + y * y * v;
  out[at + 5] = y * z * v - x * s;
  out[at + 6] = z * x * v - y * s;
  out[at + 7] = z * y * v + x * s;
  out[at + 8] = c + z * z * v;
  out[at + 9] = 0;
  out[at + 10] = 0;
  out[at + 11] = 0;
}

/** A place in a frame, as seen from where the frame is seen; three numbers. */
export function pointIn(frames: Frames, at: number, point: ArrayLike<number>, out: Float64Array, to = 0): void {
  const x = point[0] as number;
  const y = point[1] as number;
  const z = point[2] as number;
  for (let row = 0; row < 3; row += 1)
    out[to + row] =
      (frames[at + 3 * row] as number) * x +
      (frames[at + 3 * row + 1] as number) * y +
      (frames[at + 3 * row + 2] as number) * z +
      (frames[at + 9 + row] as number);
}

/** The same direction with the length 1. */
export function unit([x, y, z]: Vector): Vector {
  const length = Math.hypot(x, y, z);
  return length > 0 ? [x / length, y / length, z / length] : [0, 0, 1];
}

/**
 * How far something stands from where it stood before, in mm: no point of it within `reachMm` of its middle has gone further. Source: what a turn does to a
 * length is at most the root of half the sum of the squares by which its matrix has changed.
 */
export function movedMm(before: Frames, now: Frames, at: number, reachMm: number): number {
  let [turned, slid] = [0, 0];
  for (let index = 0; index < frameSize; index += 1) {
    const square = ((now[at + index] as number) - (before[at + index] as number)) ** 2;
    if (index < 9) turned += square;
    else slid += square;
  }
  return Math.sqrt(slid) + reachMm * Math.sqrt(turned / 2);
}

/** Whether a part stands otherwise in one than in the other, so that it is seen: by a millimetre, 100 mm from its middle. */
export const isElsewhere = (a: Frames, b: Frames, at: number): boolean => movedMm(a, b, at, 100) > 1;
