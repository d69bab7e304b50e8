import type { Easing } from "@core/project";

/**
 * How far along a move is after a share of its time, both 0…1.
 * "Soft" is the minimum-jerk curve `10s³ − 15s⁴ + 6s⁵`: it starts and ends at rest, and is fastest half-way at
 * 1.875 times its mean speed.
 */
export function eased(easing: Easing, share: number): number {
  const s = Math.min(Math.max(share, 0), 1);
  return easing === "even" ? s : s * s * s * (10 + s * (6 * s - 15));
}
