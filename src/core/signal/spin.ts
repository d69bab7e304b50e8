/**
 * A continuous servo takes its pulse as speed and direction. **Spin** is −1…+1 about neutral. Each side has its own span, since neutral is
 * rarely in the middle; where speeds were measured, spin is a share of real speed, the same both ways.
 */
export interface SpinCurve {
  /** From full speed back to full speed forward: ascending in spin, and strictly rising or strictly falling in pulse. */
  readonly knots: readonly SpinKnot[];
  readonly neutralUs: number;
  /** What a spin of 1 is in real speed; null where nobody has counted turns. */
  readonly fullDegPerS: number | null;
}

export interface SpinKnot {
  readonly spin: number;
  readonly pulseUs: number;
}

/** The data sheet's three pulses as a curve: straight on either side of neutral. */
export const threePointSpin = (backUs: number, neutralUs: number, forwardUs: number): SpinCurve => ({
  knots: [
    { spin: -1, pulseUs: backUs },
    { spin: 0, pulseUs: neutralUs },
    { spin: 1, pulseUs: forwardUs },
  ],
  neutralUs,
  fullDegPerS: null,
});

/** The pulse for a spin of −1 (full speed back) through 0 (rest) to +1 (full speed forward); outside it runs on. */
export function pulseUsOfSpin({ knots }: SpinCurve, spin: number): number {
  const [a, b] = spanAt(knots, (knot) => knot.spin >= spin);
  return a.pulseUs + ((spin - a.spin) * (b.pulseUs - a.pulseUs)) / (b.spin - a.spin);
}

/** The spin a pulse asks for. The inverse of `pulseUsOfSpin`. */
export function spinOf({ knots }: SpinCurve, pulseUs: number): number {
  const isRising = (knots.at(-1) as SpinKnot).pulseUs > (knots[0] as SpinKnot).pulseUs;
  const [a, b] = spanAt(knots, (knot) => (isRising ? knot.pulseUs >= pulseUs : knot.pulseUs <= pulseUs));
  return a.spin + ((pulseUs - a.pulseUs) * (b.spin - a.spin)) / (b.pulseUs - a.pulseUs);
}

/** The two knots between which something lies; the outer two where it lies beyond. */
function spanAt(knots: readonly SpinKnot[], isReached: (knot: SpinKnot) => boolean): [SpinKnot, SpinKnot] {
  let at = 1;
  while (at < knots.length - 1 && !isReached(knots[at] as SpinKnot)) at += 1;
  return [knots[at - 1] as SpinKnot, knots[at] as SpinKnot];
}
