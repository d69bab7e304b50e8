import type { SurveyAsk, SurveyReport } from "@core/calibrate";
import {
  type Asked,
  type Command,
  type HeadField,
  headOf,
  type JointField,
  jointOf,
  leadOf,
  lostOf,
  shapeOf,
  sourceOf,
} from "@core/engine";
import type { DeviceMemories } from "@core/files";
import type { Project, Routine, TakeData } from "@core/project";
import type { Recorded } from "@core/take";
import type { BusAsk, BusTold } from "@worker/busMessages";
import type { FromWorker, LinkReport, ToWorker } from "@worker/messages";
import { useSyncExternalStore } from "react";
import { createStore } from "zustand/vanilla";
import { notify } from "./notices";

/**
 * The live side of the bench: commands go to the worker, snapshots come back.
 * A snapshot is shown at most once per display frame; instruments read it without a render.
 */
let worker: Worker | null = null;
let snapshot: Float64Array<ArrayBuffer> | null = null;
let isPainting = false;
let revision = 0;
let project: Project | null = null;
let jointIndices = new Map<string, number>();
let sourceIndices = new Map<string, number>();
let leadIndices = new Map<string, number>();
const listeners = new Set<() => void>();

export const linkStore = createStore<readonly LinkReport[]>()(() => []);
/** The last line that left for each board; filled only while somebody watches. */
export const lineStore = createStore<Readonly<Record<string, string>>>()(() => ({}));

/** The automatic run that was started last. */
export const surveyStore = createStore<{ readonly jointId: string; readonly report: SurveyReport } | null>()(
  () => null,
);

let onAsked: (asked: Asked) => void = () => {};
let onParted: () => void = () => {};
let onRecorded: (recorded: Recorded, isWhole: boolean) => void = () => {};
/** The routines that the worker has: only those that are others now are sent again. */
let sentRoutines: readonly Routine[] = [];

/** What only somebody who watches a bus wants to hear. */
type BusShown = Exclude<BusTold, { kind: "news" | "memory" }>;
let onBus: (told: BusShown) => void = () => {};
let onMemories: (memories: DeviceMemories) => void = () => {};

/** Says who hears what a bus has to tell. */
export function answerBus(answer: (told: BusShown) => void): void {
  onBus = answer;
}

/** Says who keeps what the simulated devices on buses keep without supply. */
export function answerMemories(answer: (memories: DeviceMemories) => void): void {
  onMemories = answer;
}

/** Says who keeps a take that was recorded, and what there is of one that is still going on. */
export function answerRecorded(answer: (recorded: Recorded, isWhole: boolean) => void): void {
  onRecorded = answer;
}

/** Says who does what a lead's action leaves to the page. */
export function answerAsked(answer: (asked: Asked) => void): void {
  onAsked = answer;
}

export function startWorker(): void {
  if (worker) return;
  worker = new Worker(new URL("../worker/benchWorker.ts", import.meta.url), { type: "module" });
  worker.onmessage = ({ data }: MessageEvent<FromWorker>) => take(data);
  worker.onerror = (event) =>
    notify(`The bench worker failed: ${event.message}. Reload the page; your work is saved.`, "warning");
}

/** A worker that does not answer is not waited for longer than this. */
const partWithinMs = 1000;

/** Ends the worker, once it has released everything and has handed over what it still had. */
export async function stopWorker(): Promise<void> {
  const parting = worker;
  if (!parting) return;
  await new Promise<void>((resolve) => {
    onParted = resolve;
    tell({ kind: "part" });
    setTimeout(resolve, partWithinMs);
  });
  parting.terminate();
  worker = null;
  snapshot = null;
  sentRoutines = [];
}

/** Hands the document to the worker; snapshots of an earlier one are no longer read. */
export function handOver(next: Project): void {
  revision += 1;
  project = next;
  jointIndices = new Map(next.joints.map((joint, index) => [joint.id, index]));
  leadIndices = new Map(next.leads.map((lead, index) => [lead.id, index]));
  sourceIndices = new Map(next.sources.map((source, index) => [source.id, index]));
  const known = new Set(sentRoutines);
  const routines = next.routines.filter((routine) => !known.has(routine));
  const routineIds = next.routines.map((routine) => routine.id);
  sentRoutines = next.routines;
  tell({ kind: "project", project: { ...next, routines }, routineIds, revision });
}

/** Hands the samples of a take to the worker. */
export const giveTake = (take: TakeData): void => tell({ kind: "take", take });

/** Lets routines start by their timetables from now on; all others do not. */
export const armTimetables = (routineIds: readonly string[]): void => tell({ kind: "arm", routineIds });

/** Gives a command to the engine. What it refuses is shown as a notice. */
export const command = (given: Command): void => tell({ kind: "command", command: given });

/** Hands over what the simulated devices kept when the page was closed; before the document. */
export const giveMemories = (memories: DeviceMemories): void => tell({ kind: "memories", memories });

export const tellBus = (boardId: string, ask: BusAsk): void => tell({ kind: "bus", boardId, ask });

export const startSurvey = (jointId: string, ask: SurveyAsk): void => tell({ kind: "survey", jointId, ask });

export const endSurvey = (): void => tell({ kind: "endSurvey" });

export const plug = (boardId: string, isPlugged: boolean): void => tell({ kind: "plug", boardId, isPlugged });

export const watchLines = (isWatching: boolean): void => tell({ kind: "watchLines", isWatching });

function tell(message: ToWorker): void {
  worker?.postMessage(message);
}

function take(message: FromWorker): void {
  switch (message.kind) {
    case "snapshot": {
      const old = snapshot;
      snapshot = message.snapshot;
      if (old) worker?.postMessage({ kind: "buffer", snapshot: old } satisfies ToWorker, [old.buffer]);
      if (isPainting) return;
      isPainting = true;
      requestAnimationFrame(paint);
      break;
    }
    case "links":
      linkStore.setState(message.links, true);
      break;
    case "lines":
      lineStore.setState(message.lines, true);
      break;
    case "refused":
      notify(message.sentence, "warning");
      break;
    case "parted":
      onParted();
      break;
    case "asked":
      for (const asked of message.asked) onAsked(asked);
      break;
    case "recorded":
      onRecorded(message.recorded, true);
      break;
    case "recording":
      onRecorded(message.recorded, false);
      break;
    case "bus": {
      const { told } = message;
      if (told.kind === "news") notify(told.sentence, told.isBad ? "warning" : "info");
      else if (told.kind === "memory") onMemories(told.memories);
      else onBus(told);
      break;
    }
    case "survey":
      surveyStore.setState({ jointId: message.jointId, report: message.report }, true);
      break;
  }
}

function paint(): void {
  isPainting = false;
  if (isCurrent()) for (const listener of listeners) listener();
}

const isCurrent = () => snapshot !== null && headOf(snapshot, "revision") === revision;

/** Calls back at most once per display frame, when there is something new to show. Gives the way to stop. */
export function onLive(listener: () => void): () => void {
  listeners.add(listener);
  return () => listeners.delete(listener);
}

/** A number of the live bench; NaN before the first snapshot, or when it is of another document. */
export const liveHead = (field: HeadField): number => (snapshot && isCurrent() ? headOf(snapshot, field) : Number.NaN);

/** A number of one joint; NaN when there is none. */
export function liveJoint(jointId: string, field: JointField): number {
  const index = jointIndices.get(jointId);
  return snapshot && index !== undefined && isCurrent() ? jointOf(snapshot, index, field) : Number.NaN;
}

/** The value of a source; NaN until it was touched. */
export function liveSource(sourceId: string): number {
  const index = sourceIndices.get(sourceId);
  return snapshot && project && index !== undefined && isCurrent()
    ? sourceOf(snapshot, project.joints.length, index)
    : Number.NaN;
}

/** Whether a source has vanished. */
export function liveLost(sourceId: string): boolean {
  const index = sourceIndices.get(sourceId);
  return snapshot !== null && project !== null && index !== undefined && isCurrent()
    ? lostOf(snapshot, project.joints.length, index) === 1
    : false;
}

/** What comes out of a lead; NaN until its source has given something. */
export function liveLead(leadId: string): number {
  const index = leadIndices.get(leadId);
  return snapshot && project && index !== undefined && isCurrent()
    ? leadOf(snapshot, shapeOf(project), index)
    : Number.NaN;
}

/** A source was moved just now. */
export const giveSource = (sourceId: string, value: number): void =>
  command({ kind: "source", sourceId, value, atMs: performance.timeOrigin + performance.now() });

/**
 * A value of the live bench as React state, for what changes seldom (held, owner, playing).
 * The component renders again only when the value changes; needles use `onLive` instead.
 */
export function useLive<Value extends number | string | boolean>(read: () => Value): Value {
  return useSyncExternalStore(onLive, read, read);
}
