import { type Examination, examine } from "@core/feasible";
import type { Project, TakeData } from "@core/project";
import { readyScore } from "@core/routine";

export interface ExamineOrder {
  readonly project: Project;
  readonly routineId: string;
  /** Samples that this worker has not got yet. */
  readonly takes: readonly TakeData[];
}

export interface ExamineNews {
  readonly routineId: string;
  readonly examination: Examination | null;
  readonly tookMs: number;
}

const takes = new Map<string, TakeData>();

/** Looks through routines apart from the page and from the bench: an hour of 32 joints takes a second or two. */
self.onmessage = ({ data }: MessageEvent<ExamineOrder>) => {
  const startedMs = performance.now();
  for (const take of data.takes) takes.set(take.id, take);
  const routine = data.project.routines.find((one) => one.id === data.routineId);
  const score = routine && readyScore(data.project, routine, takes);
  const examination = score?.ok ? examine(data.project, score.value) : null;
  const buffers = examination ? Object.values(examination.ghosts).map((ghost) => ghost.buffer as ArrayBuffer) : [];
  const news: ExamineNews = { routineId: data.routineId, examination, tookMs: performance.now() - startedMs };
  self.postMessage(news, { transfer: buffers });
};
