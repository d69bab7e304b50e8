import type { Joint, ServoCard } from "@core/project";
import { ratedSpeedDegPerS } from "@core/servo";

/** Nothing is brought anywhere faster than this, however quick the servo. */
export const calmDegPerS = 90;
/** Full speeds per second, for a joint that spins. */
export const calmSpinPerS = 2;

/** How fast a joint may be brought to where something begins, and how fast it can turn at all, in targets per second. */
export function bringingSpeeds(joint: Joint, card: ServoCard): { readonly safe: number; readonly fastest: number } {
  if (joint.axis.kind === "spin") return { safe: calmSpinPerS, fastest: Number.POSITIVE_INFINITY };
  const fastest = Math.min(joint.axis.speedLimitDegPerS ?? Number.POSITIVE_INFINITY, ratedSpeedDegPerS(card));
  return { safe: Math.min(calmDegPerS, fastest / 2), fastest };
}
