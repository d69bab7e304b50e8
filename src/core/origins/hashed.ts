/** A number between 0 and 1 that a place gives every time, however often it is asked: noise that can be replayed. */
export function hashed(place: number, seed: number): number {
  let mixed = (Math.imul(place | 0, 0x9e3779b1) ^ Math.imul(seed | 0, 0x85ebca6b)) >>> 0;
  mixed = Math.imul(mixed ^ (mixed >>> 15), 0x2c1b3c6d) >>> 0;
  mixed = Math.imul(mixed ^ (mixed >>> 12), 0x297a2d39) >>> 0;
  return ((mixed ^ (mixed >>> 15)) >>> 0) / 0xffffffff;
}
