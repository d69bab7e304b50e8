import type { Clip, Key, Routine, Take, TakeData } from "@core/project";
import { type Corner, largestError, reduceToCorners } from "./reduce";
import { smoothed } from "./smooth";

/** How a take is cleaned up. */
export interface Cleaning {
  /** How far smoothing looks about each sample, both sides together, in ms; 0 for none. */
  readonly smoothMs: number;
  /** No key's line is further from the take than this, in targets. */
  readonly largest: number;
}

/** One joint of a take, cleaned up. */
export interface CleanedChannel {
  readonly jointId: string;
  readonly samples: Float32Array;
  /** On the time of the take. */
  readonly keys: readonly Key[];
  /** How far the keys are from the smoothed take at most. */
  readonly errorOfKeys: number;
  /** How far the smoothed take is from the one that was recorded at most. */
  readonly errorOfSmoothing: number;
}

/** Cleans up the part of a take between two moments of it, joint by joint. */
export function cleaned(
  take: Take,
  data: TakeData,
  { smoothMs, largest }: Cleaning,
  fromMs = 0,
  toMs = Number.POSITIVE_INFINITY,
): CleanedChannel[] {
  const first = Math.max(0, Math.floor(fromMs / take.frameMs));
  const last = Math.min(take.frames - 1, Math.ceil(toMs / take.frameMs));
  return take.jointIds.map((jointId) => {
    const raw = data.channels[jointId] as Float32Array;
    const samples = smoothMs > 0 ? smoothed(raw, take.frameMs, smoothMs) : raw;
    const part = samples.subarray(first, last + 1);
    const corners = reduceToCorners(part, take.frameMs, largest);
    return {
      jointId,
      samples,
      keys: cutTo(
        corners.map(({ atMs, target }) => ({ atMs: atMs + first * take.frameMs, target })),
        fromMs,
        toMs,
      ).map((corner) => ({ ...corner, shape: "line" as const })),
      errorOfKeys: largestError(part, take.frameMs, corners),
      errorOfSmoothing: raw.reduce(
        (worst, sample, at) => Math.max(worst, Math.abs(sample - (samples[at] as number))),
        0,
      ),
    };
  });
}

/** The line through some corners from one moment of it to another: where those lie between two corners, the line itself has a corner there. */
function cutTo(corners: readonly Corner[], fromMs: number, toMs: number): readonly Corner[] {
  const [first, last] = [corners[0], corners.at(-1)];
  if (!first || !last || corners.length < 2) return corners;
  const [startMs, endMs] = [Math.max(fromMs, first.atMs), Math.min(toMs, last.atMs)];
  if (endMs <= startMs) return [{ atMs: startMs, target: valueAt(corners, startMs) }];
  const within = corners.filter(({ atMs }) => atMs > startMs && atMs < endMs);
  return [
    { atMs: startMs, target: valueAt(corners, startMs) },
    ...within,
    { atMs: endMs, target: valueAt(corners, endMs) },
  ];
}

function valueAt(corners: readonly Corner[], atMs: number): number {
  const at = Math.max(
    0,
    corners.findLastIndex((corner) => corner.atMs <= atMs),
  );
  const [a, b] = [corners[at] as Corner, corners[at + 1]];
  return b ? a.target + ((b.target - a.target) * (atMs - a.atMs)) / (b.atMs - a.atMs) : a.target;
}

/**
 * The keys of a lane with those of a cleaned channel in them, where the clip lies. Keys that lay there before give way; those
 * before and after stay.
 */
export function keysInPlace(
  routine: Routine,
  clip: Pick<Clip, "atMs" | "fromMs" | "stretch">,
  { jointId, keys }: CleanedChannel,
): Key[] {
  const placed = keys.map((key) => ({
    ...key,
    atMs: clip.atMs + (key.atMs - clip.fromMs) * clip.stretch,
  }));
  const fromMs = placed[0]?.atMs ?? 0;
  const toMs = placed.at(-1)?.atMs ?? 0;
  const before = routine.lanes.find((lane) => lane.jointId === jointId)?.keys ?? [];
  return [...before.filter((key) => key.atMs < fromMs || key.atMs > toMs), ...placed];
}
