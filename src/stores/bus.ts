import type { Found, ScanProgress, StepsProgress, WireEvent } from "@core/bus";
import type { BusAsk, BusOutcome, BusReport, BusRun, BusTold } from "@worker/links/busMessages";
import type { TableReport } from "@worker/simulation/simulationMessages";
import { createStore } from "zustand/vanilla";
import { hear, tell } from "./bridge";

/** One line of the log of a bus. */
export interface LoggedEvent extends WireEvent {
  readonly id: number;
}

/** What one device said of itself at a moment, beside what was asked of it. */
export type HeardPoint = {
  /** In seconds since the watching began. */
  readonly x: number;
  readonly asked: number | null;
  readonly actual: number | null;
  readonly load: number | null;
  readonly volts: number | null;
  readonly temperature: number | null;
  readonly current: number | null;
};

export type { BusReport, BusRun } from "@worker/links/busMessages";
export type { DeviceOnTable } from "@worker/simulation/simulationMessages";

interface BusState {
  readonly report: BusReport | null;
  /** What lies on the table of a simulated bus. */
  readonly table: TableReport | null;
  readonly log: readonly LoggedEvent[];
  /** By the device's id. */
  readonly history: ReadonlyMap<number, readonly HeardPoint[]>;
  /** Who was found on the wire by the last scans, by bus. */
  readonly found: ReadonlyMap<string, readonly Found[]>;
  readonly running: { readonly runId: number; readonly progress: ScanProgress | StepsProgress | null } | null;
}

const logAtMost = 2000;
/** A point every half second is what a chart of a minute can show; more would only keep the page busy. */
const historyEveryS = 0.5;
const historyAtMost = 120;

const emptyState: BusState = {
  report: null,
  table: null,
  log: [],
  history: new Map(),
  found: new Map(),
  running: null,
};

/** What is known of the bus that a person looks at. */
export const busStore = createStore<BusState>()(() => emptyState);

let runs = 0;
let events = 0;
let watchedSinceUs = Number.NaN;
let answer: ((outcome: BusOutcome) => void) | null = null;

/** Watches a bus until the way back is called. */
export function watchBus(boardId: string): () => void {
  hear("bus", ({ told }) => takeTold(told));
  hear("table", ({ report }) => busStore.setState({ table: report }));
  watchedSinceUs = Number.NaN;
  busStore.setState({ report: null, table: null, log: [], history: new Map(), running: null });
  tellBus(boardId, { kind: "watch", isWatching: true });
  return () => {
    tellBus(boardId, { kind: "endRun" });
    tellBus(boardId, { kind: "watchRegisters", watch: null });
    tellBus(boardId, { kind: "watch", isWatching: false });
    busStore.setState({ running: null });
  };
}

function takeTold(told: BusTold): void {
  if (told.kind === "report") takeReport(told.report);
  else if (told.kind === "progress") {
    busStore.setState(({ running }) =>
      running?.runId === told.runId ? { running: { runId: told.runId, progress: told.progress } } : {},
    );
  } else if (busStore.getState().running?.runId === told.runId) {
    busStore.setState({ running: null });
    const answered = answer;
    answer = null;
    answered?.(told.outcome);
  }
}

const tellBus = (boardId: string, ask: BusAsk): void => tell({ kind: "bus", boardId, ask });

/** Asks something of a bus that has no answer. */
export const askBus = (boardId: string, ask: Exclude<BusAsk, { kind: "run" }>): void => tellBus(boardId, ask);

/** Runs something that takes many exchanges; one at a time. */
export function runOnBus(boardId: string, run: BusRun): Promise<BusOutcome> {
  runs += 1;
  const runId = runs;
  answer?.({ kind: "refused", sentence: "Something else was begun." });
  busStore.setState({ running: { runId, progress: null } });
  tellBus(boardId, { kind: "run", runId, run });
  return new Promise((resolve) => {
    answer = resolve;
  });
}

/** Ends what runs, between two of its steps. */
export function endRun(boardId: string): void {
  tellBus(boardId, { kind: "endRun" });
  busStore.setState({ running: null });
  const answered = answer;
  answer = null;
  answered?.({ kind: "refused", sentence: "It was ended." });
}

/** Who is on a bus, as far as anybody has looked; those that were looked for anew take the place of the old. */
export function keepFound(boardId: string, found: readonly Found[], isWholeBus: boolean): void {
  busStore.setState(({ found: before }) => {
    const same = (one: Found, other: Found) => one.id === other.id && one.layoutId === other.layoutId;
    const kept = isWholeBus
      ? []
      : (before.get(boardId) ?? []).filter((one) => !found.some((other) => same(one, other)));
    return {
      found: new Map(before).set(
        boardId,
        [...kept, ...found].sort((a, b) => a.id - b.id),
      ),
    };
  });
}

/** Somebody is not where they were found. */
export function forgetFound(boardId: string, layoutId: string, id: number): void {
  busStore.setState(({ found }) => {
    const left = (found.get(boardId) ?? []).filter((one) => one.id !== id || one.layoutId !== layoutId);
    return { found: new Map(found).set(boardId, left) };
  });
}

export const clearLog = (): void => busStore.setState({ log: [] });

const orNull = (value: number): number | null => (Number.isFinite(value) ? value : null);

function takeReport(report: BusReport): void {
  busStore.setState(({ log, history }) => {
    if (Number.isNaN(watchedSinceUs)) watchedSinceUs = report.atUs;
    const x = Math.round((report.atUs - watchedSinceUs) / 1e5) / 10;
    const heard = new Map(history);
    for (const { id, wanted, telemetry, phase } of report.devices) {
      const last = history.get(id)?.at(-1);
      if (last && x - last.x < historyEveryS) continue;
      const isSilent = phase === "silent";
      const point: HeardPoint = {
        x,
        asked: orNull(wanted),
        actual: isSilent ? null : orNull(telemetry.position),
        load: isSilent ? null : orNull(telemetry.loadPercent),
        volts: isSilent ? null : orNull(telemetry.volts),
        temperature: isSilent ? null : orNull(telemetry.temperatureC),
        current: isSilent ? null : orNull(telemetry.currentMa),
      };
      heard.set(id, [...(history.get(id) ?? []), point].slice(-historyAtMost));
    }
    const added = report.events.map((event) => ({ ...event, id: ++events }));
    return {
      report,
      history: heard,
      log: added.length > 0 ? [...log, ...added].slice(-logAtMost) : log,
    };
  });
}
