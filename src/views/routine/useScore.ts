import type { Routine } from "@core/project";
import { phase, readyScore, type Score } from "@core/routine";
import { useProject } from "@stores/document";
import { liveHead, useLive } from "@stores/live";
import { useTakes } from "@stores/takes";
import { useCallback, useMemo } from "react";

/** A routine made ready to be looked at; a sentence where it cannot be. */
export function useScore(routine: Routine): { readonly score: Score | null; readonly problem: string } {
  const project = useProject((current) => current);
  const takes = useTakes();
  return useMemo(() => {
    const ready = readyScore(project, routine, takes);
    return ready.ok ? { score: ready.value, problem: "" } : { score: null, problem: ready.problem };
  }, [project, routine, takes]);
}

/** What the player is at with this routine; idle while it plays another. */
export function usePhase(routine: Routine): number {
  const index = useProject((project) => project.routines.indexOf(routine));
  return useLive(useCallback(() => (liveHead("routineIndex") === index ? liveHead("phase") : phase.idle), [index]));
}

/** Where each joint of a score is asked to be at a moment, by joint id. */
export const targetsAt = (score: Score, jointIdOf: (place: number) => string, atMs: number): Record<string, number> =>
  Object.fromEntries(
    score.tracks.map((track, at) => [jointIdOf(track.joint), track.valueAt(atMs, score.starts[at] as number)]),
  );
