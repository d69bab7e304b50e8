/**
 * A continuous servo takes its pulse as speed and direction. **Spin** is −1…+1 about neutral.
 * Each side has its own span, since neutral is rarely in the middle.
 */
export interface SpinCurve {
  readonly backUs: number;
  readonly neutralUs: number;
  readonly forwardUs: number;
}

/** The pulse for a spin of −1 (full speed back) through 0 (rest) to +1 (full speed forward); outside it runs on. */
export function pulseUsOfSpin(curve: SpinCurve, spin: number): number {
  const spanUs = spin < 0 ? curve.neutralUs - curve.backUs : curve.forwardUs - curve.neutralUs;
  return curve.neutralUs + spin * spanUs;
}

/** The spin a pulse asks for. The inverse of `pulseUsOfSpin`. */
export function spinOf(curve: SpinCurve, pulseUs: number): number {
  const offUs = pulseUs - curve.neutralUs;
  const forwardSpanUs = curve.forwardUs - curve.neutralUs;
  const isForward = offUs * forwardSpanUs >= 0;
  return offUs / (isForward ? forwardSpanUs : curve.neutralUs - curve.backUs);
}
