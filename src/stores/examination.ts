import type { Examination } from "@core/feasible";
import { type Project, type Routine, replaceRoutines, routinesWithin, textOfRoutine } from "@core/project";
import { problem, type Result } from "@core/result";
import type { ExamineNews, ExamineOrder } from "@worker/examineWorker";
import { useEffect } from "react";
import { useStore } from "zustand";
import { createStore } from "zustand/vanilla";
import { editForField, projectNow, useProject } from "./document";
import { liveHead, useLive } from "./live";
import { notify } from "./notices";
import { takesNow, useTakes } from "./takes";

interface ExaminationState {
  readonly routineId: string | null;
  readonly examination: Examination | null;
  /** How fast it was taken to be played; 1 is as written. */
  readonly speed: number;
  /** Something has changed since, and is being looked at. */
  readonly isBusy: boolean;
}

const examinationStore = createStore<ExaminationState>()(() => ({
  routineId: null,
  examination: null,
  speed: 1,
  isBusy: false,
}));

/** So long after the last edit it is looked at again. */
const afterMs = 120;
let worker: Worker | null = null;
let isAsking = false;
/** Counts what is to be looked at, and which of those is being looked at: an answer to an earlier one is no answer to the last. */
let [wanted, asked] = [0, 0];
let next: {
  readonly project: Project;
  readonly routineId: string;
  readonly speed: number;
  readonly count: number;
} | null = null;
let onStretched: ((routines: Result<readonly Routine[]>) => void) | null = null;
let given = new Set<string>();

function ask(): void {
  if (isAsking || !next) return;
  const { project, routineId, speed, count } = next;
  next = null;
  asked = count;
  isAsking = true;
  send("examine", project, routineId, speed);
}

function send(kind: ExamineOrder["kind"], project: Project, routineId: string, speed: number): void {
  worker ??= startWorker();
  const takes = [...takesNow().values()].filter((take) => !given.has(take.id));
  for (const take of takes) given.add(take.id);
  // Only what the routine plays goes over: a project may hold hours of others.
  const routines = routinesWithin(project, routineId).map(textOfRoutine);
  const { routines: _, ...others } = project;
  const order: ExamineOrder = { kind, speed, project: others, routines, routineId, takes };
  worker.postMessage(order);
}

function startWorker(): Worker {
  const started = new Worker(new URL("../worker/examineWorker.ts", import.meta.url), { type: "module" });
  given = new Set();
  started.onmessage = ({ data }: MessageEvent<ExamineNews>) => {
    if (data.kind === "stretch") {
      onStretched?.(data.routines);
      return;
    }
    isAsking = false;
    examinationStore.setState({
      routineId: data.routineId,
      examination: data.examination,
      speed: data.speed,
      isBusy: asked !== wanted,
    });
    ask();
  };
  // A check that broke must not end all checking: the next edit begins with a fresh worker.
  started.onerror = () => {
    started.terminate();
    worker = null;
    isAsking = false;
    onStretched?.(problem("It could not be stretched: the check broke. It is tried again when you ask again."));
    examinationStore.setState({ isBusy: false });
    notify("What the servos can do could not be checked. It is tried again after the next change.", "warning");
  };
  return started;
}

/** Looks at a routine, and again after every edit, for as long as somebody has it open. */
export function useExaminer(routineId: string): void {
  const project = useProject((current) => current);
  const takes = useTakes();
  const speed = useLive(readSpeed);
  // biome-ignore lint/correctness/useExhaustiveDependencies: samples that arrive change what is seen as well.
  useEffect(() => {
    wanted += 1;
    const count = wanted;
    examinationStore.setState({ isBusy: true });
    const timer = setTimeout(() => {
      next = { project, routineId, speed, count };
      ask();
    }, afterMs);
    return () => clearTimeout(timer);
  }, [project, routineId, takes, speed]);
}

/** How fast routines are played; 1 is as written. */
const readSpeed = () => liveHead("playSpeed") || 1;

/**
 * Stretches a routine to what the servos can do at the speed that it is played at, apart from the page. Gives a sentence where it cannot be, or where
 * the bench was edited meanwhile.
 */
export function stretchRoutine(routineId: string): Promise<string | null> {
  const asked = projectNow();
  return new Promise((resolve) => {
    onStretched = (routines) => {
      onStretched = null;
      if (!routines.ok) resolve(routines.problem);
      else if (projectNow() !== asked) resolve("The bench was changed meanwhile. Ask for it again.");
      else resolve(editForField(replaceRoutines(routines.value, "Stretch to feasible")));
    };
    send("stretch", asked, routineId, readSpeed());
  });
}

/** What the servos can and cannot do of a routine; the last result stays until the next is there. */
export function useExamination(routineId: string): ExaminationState {
  const state = useStore(examinationStore);
  return state.routineId === routineId ? state : { routineId, examination: null, speed: 1, isBusy: true };
}
