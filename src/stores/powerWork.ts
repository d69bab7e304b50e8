import type { Outcome, PowerCourse } from "@core/power";
import { type Project, routinesWithin } from "@core/project";
import type { PowerNews, PowerOrder } from "@worker/powerWorker";
import { useEffect, useState } from "react";
import { useProject } from "./document";
import { takesNow, useTakes } from "./takes";

/** So long after the last edit it is worked out again. */
const afterMs = 150;

export interface CourseState {
  /** What it was worked out for: the one on the bench may have changed since, and names in the result are of this one. */
  readonly project: Project | null;
  readonly course: PowerCourse | null;
  readonly outcomes: readonly Outcome[];
  readonly isBusy: boolean;
}

/** What a routine asks of the wiring, worked out apart from the page and again after every edit. The last result stays until the next is there. */
export function usePowerCourse(routineId: string | null, charge: number): CourseState {
  const project = useProject((current) => current);
  const takes = useTakes();
  const [state, setState] = useState<CourseState>({ project: null, course: null, outcomes: [], isBusy: false });
  // biome-ignore lint/correctness/useExhaustiveDependencies: samples that arrive change what is seen as well.
  useEffect(() => {
    if (routineId === null) return;
    setState((before) => ({ ...before, isBusy: true }));
    let worker: Worker | null = null;
    const timer = setTimeout(() => {
      worker = new Worker(new URL("../worker/powerWorker.ts", import.meta.url), { type: "module" });
      worker.onmessage = ({ data: { course, outcomes } }: MessageEvent<PowerNews>) =>
        setState({ project, course, outcomes, isBusy: false });
      worker.onerror = () => setState((before) => ({ ...before, isBusy: false }));
      worker.postMessage({
        ask: 0,
        project: { ...project, routines: routinesWithin(project, routineId) },
        routineId,
        charge,
        takes: [...takesNow().values()],
      } satisfies PowerOrder);
    }, afterMs);
    // A question that is asked anew ends the one before it.
    return () => {
      clearTimeout(timer);
      worker?.terminate();
    };
  }, [project, routineId, takes, charge]);
  return state;
}
