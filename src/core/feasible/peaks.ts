import type { Track } from "@core/routine";
import { stepMs } from "./sampling";

/** Over no less time is a speed worked out: a step of a fraction of a degree is no speed that a servo would feel. */
const shortestMs = 5;
/** Two moments nearer than this are one. */
const instantMs = 0.01;

/** For each step of the grid: the greatest speed, and between which moments it is asked for. */
export interface Peaks {
  readonly peaks: Float32Array;
  readonly fromsMs: Float64Array;
  readonly tosMs: Float64Array;
}

/**
 * How fast a joint is asked to turn at most within each step of the grid, in targets per second. Where its lane or clips have something to say
 * between two samples of the grid, they are asked there as well: a spike is no less fast for being short.
 */
export function peakSpeeds(track: Track, start: number, targets: Float32Array): Peaks {
  const peaks = new Float32Array(Math.max(0, targets.length - 1));
  const fromsMs = new Float64Array(peaks.length);
  const tosMs = new Float64Array(peaks.length);
  const fine = track.momentsBetween(stepMs);
  let next = 0;
  for (let at = 0; at < peaks.length; at += 1) {
    const gridMs = (at + 1) * stepMs;
    if (!((fine[next] ?? Number.POSITIVE_INFINITY) < gridMs)) {
      peaks[at] = Math.abs((targets[at + 1] as number) - (targets[at] as number)) * (1000 / stepMs);
      fromsMs[at] = gridMs - stepMs;
      tosMs[at] = gridMs;
      continue;
    }
    let fromMs = at * stepMs;
    let value = targets[at] as number;
    let peak = 0;
    // An hour of a joint has 180 000 steps: nothing is allocated in one.
    for (let isGrid = false; !isGrid; ) {
      const fineMs = next < fine.length ? (fine[next] as number) : Number.POSITIVE_INFINITY;
      isGrid = !(fineMs < gridMs);
      if (!isGrid) next += 1;
      const ms = isGrid ? gridMs : fineMs;
      if (!isGrid && ms - fromMs < instantMs) continue;
      const target = isGrid ? (targets[at + 1] as number) : track.valueAt(ms, start);
      const speed = (Math.abs(target - value) * 1000) / Math.max(ms - fromMs, shortestMs);
      if (speed > peak) {
        peak = speed;
        fromsMs[at] = fromMs;
        tosMs[at] = ms;
      }
      fromMs = ms;
      value = target;
    }
    peaks[at] = peak;
  }
  return { peaks, fromsMs, tosMs };
}
