import type { Project, Run } from "@core/project";
import { mayCarryA } from "./conductor";
import type { Extreme, PowerCourse } from "./course";
import { blowsWithinS } from "./fuses";

/** How a run of wire fares under a routine that is played again and again. */
export interface Warmth {
  readonly run: Run;
  readonly most: Extreme;
  /** The steady current, in A, that would warm it as much as the worst moment of the routine does. */
  readonly heatA: number;
  readonly mayCarryA: number;
  /** How near wire or fuse is to what it bears; 1 is all of it. */
  readonly share: number;
  /** When its fuse blows of this, in s; null for no fuse, Infinity for never. */
  readonly fuse: { readonly fromS: number; readonly toS: number } | null;
}

/** All runs that carry anything, the one nearest to its limit first. */
export function warmest({ runs }: Project, course: PowerCourse): readonly Warmth[] {
  return runs
    .flatMap((run): Warmth[] => {
      const carried = course.runs[run.id];
      if (!carried || carried.most.value <= 0) return [];
      const { most, heatA } = carried;
      const bearsA = mayCarryA(run.areaMm2);
      const fuseShare = run.fuse ? (heatA * 1000) / run.fuse.ratedMa : 0;
      const share = Math.max(heatA / bearsA, fuseShare);
      return [{ run, most, heatA, mayCarryA: bearsA, share, fuse: run.fuse && blowsWithinS(run.fuse, heatA) }];
    })
    .sort((a, b) => b.share - a.share);
}
