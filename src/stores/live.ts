import type { SurveyAsk, SurveyReport } from "@core/calibrate";
import {
  type Command,
  type HeadField,
  headOf,
  type JointField,
  jointOf,
  leadOf,
  lostOf,
  type SnapshotShape,
  shapeOf,
  sourceOf,
} from "@core/engine";
import type { LinkHealthReport } from "@core/link";
import { type Project, type Routine, type TakeData, textOfRoutine } from "@core/project";
import type { LinkReport } from "@worker/messages";
import type { SimulationAsk } from "@worker/simulation/simulationMessages";
import { useEffect, useSyncExternalStore } from "react";
import { createStore } from "zustand/vanilla";
import { hear, stopWorker, tell } from "./bridge";
import { heartStore, mustAnswer } from "./heart";
import { notify } from "./notices";

/**
 * The live side of the bench: commands go to the worker, snapshots come back.
 * A snapshot is shown at most once per display frame; instruments read it without a render.
 */
interface Live {
  snapshot: Float64Array<ArrayBuffer> | null;
  isPainting: boolean;
  /** Which document the snapshots are to be of, and where in them its things have their places. */
  revision: number;
  /** The earliest document whose snapshots have the same things in the same places: until the worker has read an edit, the last it said holds. */
  readableFrom: number;
  /** All that has a place in a snapshot, in order. */
  places: string;
  shape: SnapshotShape;
  joints: ReadonlyMap<string, number>;
  sources: ReadonlyMap<string, number>;
  leads: ReadonlyMap<string, number>;
  /** The routines that the worker has: only those that are others now are sent again. */
  sentRoutines: readonly Routine[];
}

const nowhere: ReadonlyMap<string, number> = new Map();
const live: Live = {
  snapshot: null,
  isPainting: false,
  revision: 0,
  readableFrom: 0,
  places: "",
  shape: { joints: 0, sources: 0, leads: 0 },
  joints: nowhere,
  sources: nowhere,
  leads: nowhere,
  sentRoutines: [],
};

/**
 * How often something is shown at most, in ms between two looks: what the eye follows at every display frame; the small picture of the bench at
 * every other one; what lies beside it (the rack, the trace) a little less often; words no faster than they can be read. All of one pace are shown in the same frame, so that the page is laid out once for them.
 */
export const pace = { motion: 0, picture: 30, overview: 60, words: 120 } as const;

interface Listeners {
  readonly leastMs: number;
  readonly calls: Set<() => void>;
  shownMs: number;
}
const listeners: readonly Listeners[] = Object.values(pace).map((leastMs) => ({
  leastMs,
  calls: new Set(),
  shownMs: Number.NEGATIVE_INFINITY,
}));
/** Display frames come a little early or late: what is due within this is due. */
const early = 8;

export const linkStore = createStore<readonly LinkReport[]>()(() => []);
/** The last line that left for each board; filled only while somebody watches. */
export const lineStore = createStore<Readonly<Record<string, string>>>()(() => ({}));

/** How each link did lately, by board id; kept up only while somebody watches. */
export const healthStore = createStore<Readonly<Record<string, LinkHealthReport>>>()(() => ({}));

/** The automatic run that was started last. */
export const surveyStore = createStore<{ readonly jointId: string; readonly report: SurveyReport } | null>()(
  () => null,
);

hear("links", ({ links }) => linkStore.setState(links, true));
hear("lines", ({ lines, health }) => {
  lineStore.setState(lines, true);
  healthStore.setState(health, true);
});
hear("survey", ({ jointId, report }) => surveyStore.setState({ jointId, report }, true));
hear("refused", ({ sentence }) => notify(sentence, "warning"));
hear("news", ({ sentence, isBad }) => notify(sentence, isBad ? "warning" : "info"));
hear("snapshot", ({ snapshot }) => {
  const old = live.snapshot;
  live.snapshot = snapshot;
  if (old) tell({ kind: "buffer", snapshot: old }, [old.buffer]);
  if (live.isPainting) return;
  live.isPainting = true;
  requestAnimationFrame(paint);
});

// What was seen last says nothing any more once the bench is not heard.
heartStore.subscribe(({ heart }) => {
  if (heart !== "beats") forgetSnapshot();
});

function forgetSnapshot(): void {
  const { snapshot } = live;
  live.snapshot = null;
  if (snapshot) tell({ kind: "buffer", snapshot }, [snapshot.buffer]);
  for (const { calls } of listeners) for (const call of calls) call();
}

const placesOf = (items: readonly { readonly id: string }[]) => new Map(items.map(({ id }, index) => [id, index]));

/** What has its place in a snapshot, in order: things by id, and what the numbers of a joint mean. */
const allPlacesOf = ({ joints, leads, sources, routines }: Project): string =>
  JSON.stringify([
    joints.map(({ id, axis }) => [id, axis.kind]),
    [leads, sources, routines].map((things) => things.map(({ id }) => id)),
  ]);

/** Hands the document to the worker; snapshots of an earlier one are no longer read if other things have their places there. */
export function giveDocument(project: Project): void {
  live.revision += 1;
  const places = allPlacesOf(project);
  if (places !== live.places) live.readableFrom = live.revision;
  live.places = places;
  live.shape = shapeOf(project);
  live.joints = placesOf(project.joints);
  live.leads = placesOf(project.leads);
  live.sources = placesOf(project.sources);
  const known = new Set(live.sentRoutines);
  const { routines, ...others } = project;
  const changed = routines.filter((routine) => !known.has(routine)).map(textOfRoutine);
  const routineIds = routines.map((routine) => routine.id);
  live.sentRoutines = routines;
  tell({ kind: "project", project: others, routines: changed, routineIds, revision: live.revision });
}

/** Ends the worker; what it showed is shown no more, and the next one is told everything anew. */
export async function endLive(): Promise<void> {
  await stopWorker();
  live.snapshot = null;
  live.sentRoutines = [];
}

/** Hands the samples of a take to the worker. */
export const giveTake = (take: TakeData): void => tell({ kind: "take", take });

/** Lets routines start by their timetables from now on; all others do not. */
export const armTimetables = (routineIds: readonly string[]): void => tell({ kind: "arm", routineIds });

/** Gives a command to the engine. What it refuses is shown as a notice. */
export function command(given: Command): void {
  tell({ kind: "command", command: given });
  if (given.kind === "releaseAll") mustAnswer();
}

/** Does something to what is simulated at the far end of a link. */
export const askSimulation = (boardId: string, ask: SimulationAsk): void => tell({ kind: "simulation", boardId, ask });

export const startSurvey = (jointId: string, ask: SurveyAsk): void => tell({ kind: "survey", jointId, ask });

export const endSurvey = (): void => tell({ kind: "endSurvey" });

export const watchLines = (isWatching: boolean): void => tell({ kind: "watchLines", isWatching });

function paint(): void {
  live.isPainting = false;
  if (!current()) return;
  const nowMs = performance.now();
  for (const group of listeners) {
    // What is left out now is shown a little later: also a bench that rests shows itself a few times a second.
    if (nowMs - group.shownMs < group.leastMs - early) continue;
    group.shownMs = nowMs;
    for (const call of group.calls) call();
  }
}

/** The last snapshot, where its places are those of this document. */
const current = () =>
  live.snapshot !== null && headOf(live.snapshot, "revision") >= live.readableFrom ? live.snapshot : null;

/** Calls back when there is something new to show, at most once per display frame or less often (see `pace`). Gives the way to stop. */
export function onLive(listener: () => void, leastMs: (typeof pace)[keyof typeof pace] = pace.motion): () => void {
  const group = listeners.find((one) => one.leastMs === leastMs);
  group?.calls.add(listener);
  return () => group?.calls.delete(listener);
}

/** A number of the live bench; NaN before the first snapshot, or when that has other things in its places. */
export function liveHead(field: HeadField): number {
  const snapshot = current();
  return snapshot ? headOf(snapshot, field) : Number.NaN;
}

/** A number of one joint; NaN when there is none. */
export function liveJoint(jointId: string, field: JointField): number {
  const [snapshot, index] = [current(), live.joints.get(jointId)];
  return snapshot && index !== undefined ? jointOf(snapshot, index, field) : Number.NaN;
}

/** The value of a source; NaN until it was touched. */
export function liveSource(sourceId: string): number {
  const [snapshot, index] = [current(), live.sources.get(sourceId)];
  return snapshot && index !== undefined ? sourceOf(snapshot, live.shape.joints, index) : Number.NaN;
}

/** Whether a source has vanished. */
export function liveLost(sourceId: string): boolean {
  const [snapshot, index] = [current(), live.sources.get(sourceId)];
  return snapshot !== null && index !== undefined && lostOf(snapshot, live.shape.joints, index) === 1;
}

/** What comes out of a lead; NaN until its source has given something. */
export function liveLead(leadId: string): number {
  const [snapshot, index] = [current(), live.leads.get(leadId)];
  return snapshot && index !== undefined ? leadOf(snapshot, live.shape, index) : Number.NaN;
}

/** A source was moved just now. One that has been taken away under the hand that moved it hears nothing. */
export function giveSource(sourceId: string, value: number): void {
  if (!live.sources.has(sourceId)) return;
  command({ kind: "source", sourceId, value, atMs: performance.timeOrigin + performance.now() });
}

const onEveryLook = (listener: () => void) => onLive(listener);

let everyTickWanted = 0;

/** While this is shown, the bench is shown at every tick, also while it rests: for what goes on by itself. */
export function useEveryTick(): void {
  useEffect(() => {
    const want = (by: number) => {
      everyTickWanted += by;
      tell({ kind: "everyTick", isWanted: everyTickWanted > 0 });
    };
    want(1);
    return () => want(-1);
  }, []);
}

/**
 * A value of the live bench as React state, for what changes seldom (held, owner, playing).
 * The component renders again only when the value changes; needles use `onLive` instead.
 */
export function useLive<Value extends number | string | boolean>(read: () => Value): Value {
  return useSyncExternalStore(onEveryLook, read, read);
}
