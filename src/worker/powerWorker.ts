import { compared, courseOf, type Outcome, type PowerCourse } from "@core/power";
import type { Project, TakeData } from "@core/project";
import { readyScore } from "@core/routine";

/** What is asked of the power's worker: what a routine asks of the wiring. */
export interface PowerOrder {
  readonly ask: number;
  readonly project: Project;
  readonly routineId: string;
  /** Of batteries, 0 to 1. */
  readonly charge: number;
  /** Samples that this worker has not got yet. */
  readonly takes: readonly TakeData[];
}

export interface PowerNews {
  readonly ask: number;
  readonly course: PowerCourse | null;
  readonly outcomes: readonly Outcome[];
}

const takes = new Map<string, TakeData>();

/** Works through routines apart from the page: as they are, and with each change that might ask less. */
self.onmessage = ({ data }: MessageEvent<PowerOrder>) => {
  for (const take of data.takes) takes.set(take.id, take);
  const { ask, project, routineId, charge } = data;
  const routine = project.routines.find(({ id }) => id === routineId);
  const score = routine && readyScore(project, routine, takes);
  const course = score?.ok ? courseOf(project, score.value, { charge }) : null;
  const outcomes = course ? compared(project, routineId, takes, charge) : [];
  self.postMessage({ ask, course, outcomes } satisfies PowerNews);
};
