import type { Fuse } from "@core/project";

/**
 * When a fuse blows, as a range: two of one kind differ that much. Shares of its rating, and seconds. Rounded from what the sheets of small glass and blade
 * fuses allow.
 */
const blowsAfterS: Readonly<Record<Fuse["blows"], readonly (readonly [share: number, fromS: number, toS: number])[]>> =
  {
    fast: [
      [1.35, 60, 3600],
      [2, 0.3, 30],
      [3, 0.05, 1],
      [6, 0.01, 0.1],
      [10, 0.002, 0.02],
    ],
    slow: [
      [1.35, 300, 3600],
      [2, 5, 120],
      [3, 1, 20],
      [6, 0.2, 3],
      [10, 0.02, 0.5],
    ],
  };

/** Up to this share of its rating it holds for ever. */
const holdsShare = 1.1;

/** How long a fuse bears a current, in s: from, and up to. Infinite where it never blows. */
export function blowsWithinS({ ratedMa, blows }: Fuse, amps: number): { readonly fromS: number; readonly toS: number } {
  const share = (amps * 1000) / ratedMa;
  const table = blowsAfterS[blows];
  const never = Number.POSITIVE_INFINITY;
  if (share <= holdsShare) return { fromS: never, toS: never };
  const next = table.findIndex(([at]) => at > share);
  const last = table.at(-1) as (typeof table)[number];
  if (next < 0) return { fromS: last[1] * (last[0] / share) ** 2, toS: last[2] * (last[0] / share) ** 2 };
  const [share1, from1, to1] = table[next] as (typeof table)[number];
  if (next === 0) return { fromS: from1, toS: never };
  const [share0, from0, to0] = table[next - 1] as (typeof table)[number];
  // Straight between the entries on paper with logarithmic axes, as fuse curves are drawn.
  const part = Math.log(share / share0) / Math.log(share1 / share0);
  const between = (a: number, b: number) => a * (b / a) ** part;
  return { fromS: between(from0, from1), toS: between(to0, to1) };
}

/** Of a small fuse in its holder, in mΩ: the smaller the current, the thinner its wire. About 0.1 V at its rating. */
export const fuseMilliohm = ({ ratedMa }: Fuse): number => 100_000 / ratedMa;

/** What fuses are sold in, in mA. */
export const soldFusesMa = [500, 1000, 2000, 3000, 4000, 5000, 7500, 10_000, 15_000, 20_000, 30_000] as const;
