import type { Surroundings } from "./shaperKind";

/** The number at which a switch counts as on. */
export const half = 0.5;

interface Ends {
  readonly low: number;
  readonly high: number;
}

/** Where a value lies in a range, 0…1; outside it stays at the ends. */
export const shareIn = ({ low, high }: Ends, value: number) => Math.min(Math.max((value - low) / (high - low), 0), 1);

/** Where another source stands in its own range; NaN until it has a value. */
export const shareOf = (sourceId: string, around: Surroundings) =>
  shareIn(around.rangeOf(sourceId), around.valueOf(sourceId));

/** A share laid onto two ends; `otherwise` where there is no share yet. */
export const stretched = (share: number, { low, high }: Ends, otherwise: number) =>
  Number.isNaN(share) ? otherwise : low + share * (high - low);
