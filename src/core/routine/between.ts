import { leadInMs } from "./player";
import type { Score } from "./score";

/**
 * How long the joints take, after each round, to come to where the next begins, in ms; 0 where it ends as it begins. The score knows nothing of this
 * time. `safeSpeeds` says how fast each joint of the project may be brought somewhere, in targets per second.
 */
export function betweenRoundsMs(score: Score, safeSpeeds: ArrayLike<number>): number {
  const endMs = score.routine.isThereAndBack ? 0 : score.lengthMs;
  return Math.max(
    0,
    ...score.tracks.map((track, at) => {
      const start = score.starts[at] as number;
      const next = track.baseAt(endMs, start);
      return leadInMs(track.valueAt(0, next) - track.valueAt(endMs, start), safeSpeeds[track.joint] as number);
    }),
  );
}
