import { expect, test } from "vitest";
import { frameOfTurn, frameSize, isElsewhere, joinFrames, movedMm, pointIn } from "./frames";
import { halton } from "./halton";

/** A frame turned about some axis and shifted, by numbers of 0 to 1. */
function someFrame(at: number, mostRad: number, mostMm: number): Float64Array {
  const share = (dimension: number) => 2 * halton(at, dimension) - 1;
  const axis = [share(0), share(1), share(2)] as const;
  const length = Math.hypot(...axis) || 1;
  const frame = new Float64Array(frameSize);
  frameOfTurn([axis[0] / length, axis[1] / length, axis[2] / length], mostRad * share(3), frame);
  for (let row = 0; row < 3; row += 1) frame[9 + row] = mostMm * share(4 + row);
  return frame;
}

test("no point within reach has moved further than is said, and one about as far as a turn alone takes it", () => {
  const [a, b, moved] = [new Float64Array(3), new Float64Array(3), new Float64Array(frameSize)];
  for (let at = 1; at <= 500; at += 1) {
    const before = someFrame(at, Math.PI, 200);
    joinFrames(before, 0, someFrame(at + 7919, at % 2 ? 0.02 : 2, at % 3 ? 0 : 5), 0, moved, 0);
    const saidMm = movedMm(before, moved, 0, 80);
    let mostMm = 0;
    for (let point = 1; point <= 60; point += 1) {
      const place = [0, 1, 2].map((dimension) => 2 * halton(point, dimension) - 1);
      const length = Math.hypot(...place) || 1;
      const onBall = place.map((value) => (80 * value) / length);
      pointIn(before, 0, onBall, a);
      pointIn(moved, 0, onBall, b);
      mostMm = Math.max(mostMm, Math.hypot(...[0, 1, 2].map((row) => (a[row] as number) - (b[row] as number))));
    }
    expect(mostMm).toBeLessThanOrEqual(saidMm + 1e-9);
    if (at % 3) expect(mostMm).toBeGreaterThan(0.9 * saidMm);
  }
});

test("a part stands elsewhere from a millimetre on, or from a little more than half a degree", () => {
  const rest = someFrame(1, 0, 0);
  const shifted = (mm: number) => Float64Array.from(rest, (value, index) => (index === 10 ? value + mm : value));
  expect([0.9, 1.1].map((mm) => isElsewhere(rest, shifted(mm), 0))).toEqual([false, true]);
  const turned = (deg: number) => {
    const frame = new Float64Array(frameSize);
    frameOfTurn([0, 0, 1], (deg * Math.PI) / 180, frame);
    return frame;
  };
  expect([0.5, 0.6].map((deg) => isElsewhere(turned(0), turned(deg), 0))).toEqual([false, true]);
});
