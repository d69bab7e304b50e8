import { type Examination, examine, stretchToFeasible } from "@core/feasible";
import { type Project, type Routine, routineOfText, type TakeData } from "@core/project";
import { ok, type Result } from "@core/result";
import { readyScore } from "@core/routine";

export interface ExamineOrder {
  readonly kind: "examine" | "stretch";
  readonly project: Omit<Project, "routines">;
  /** Those that it plays, as texts. */
  readonly routines: readonly string[];
  readonly routineId: string;
  /** How fast it is to be played; 1 is as written. */
  readonly speed: number;
  /** Samples that this worker has not got yet. */
  readonly takes: readonly TakeData[];
}

export type ExamineNews =
  | {
      readonly kind: "examine";
      readonly routineId: string;
      readonly speed: number;
      readonly examination: Examination | null;
    }
  /** The routines as they are afterwards, or why not. */
  | { readonly kind: "stretch"; readonly routines: Result<readonly Routine[]> };

const takes = new Map<string, TakeData>();

/** Looks through routines, and stretches them, apart from the page and from the bench: an hour of 32 joints takes a second or two. */
self.onmessage = ({ data }: MessageEvent<ExamineOrder>) => {
  for (const take of data.takes) takes.set(take.id, take);
  const { routineId, speed } = data;
  const project: Project = { ...data.project, routines: data.routines.map(routineOfText) };
  if (data.kind === "stretch") {
    const done = stretchToFeasible(routineId, takes, speed).apply(project);
    self.postMessage({ kind: "stretch", routines: done.ok ? ok(done.value.routines) : done } satisfies ExamineNews);
    return;
  }
  const routine = project.routines.find((one) => one.id === routineId);
  const score = routine && readyScore(project, routine, takes);
  const examination = score?.ok ? examine(project, score.value, { speed }) : null;
  const buffers = examination ? Object.values(examination.ghosts).map((ghost) => ghost.buffer as ArrayBuffer) : [];
  self.postMessage({ kind: "examine", routineId, speed, examination } satisfies ExamineNews, { transfer: buffers });
};
