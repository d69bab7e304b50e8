import {
  type Difference,
  type HandedOff,
  type Paper,
  type ReadBack,
  type SheetKind,
  type SheetPage,
  type TableAsk,
  type TableFormat,
  takeOver,
} from "@core/handOff";
import type { Project } from "@core/project";
import { problem, type Result } from "@core/result";
import type { HandOffAsk, HandOffNews, HandOffOrder } from "@worker/handOffWorker";
import { useEffect } from "react";
import { useStore } from "zustand";
import { createStore } from "zustand/vanilla";
import { editForField, projectNow, useProject } from "./document";
import { takesNow, useTakes } from "./takes";

/** What is handed off as the project stands; null until it was written the first time. */
const handedStore = createStore<{ readonly handed: Result<HandedOff> | null; readonly isBusy: boolean }>()(() => ({
  handed: null,
  isBusy: true,
}));

export const useHandedOff = () => useStore(handedStore);

/** So long after the last edit it is written anew. */
const afterMs = 150;
const patienceMs = 60_000;
const broken = problem("That took too long, or broke by a fault of Vantel. Leave something out, and try again.");

/** Asks a worker of its own; gives the way to end it. */
function ask(project: Project, what: HandOffAsk, onNews: (news: HandOffNews | null) => void): () => void {
  const worker = new Worker(new URL("../worker/handOffWorker.ts", import.meta.url), { type: "module" });
  // What is pasted may be anything: it is not read for ever.
  const timer = setTimeout(() => end(null), patienceMs);
  const end = (news: HandOffNews | null) => {
    clearTimeout(timer);
    worker.terminate();
    onNews(news);
  };
  worker.onmessage = ({ data }: MessageEvent<HandOffNews>) => end(data);
  worker.onerror = () => end(null);
  worker.postMessage({ project, takes: [...takesNow().values()], ask: what } satisfies HandOffOrder);
  return () => {
    clearTimeout(timer);
    worker.terminate();
  };
}

/** Writes what is handed off, and again after every edit, for as long as somebody looks at it. */
export function useHandingOff(): void {
  const project = useProject((current) => current);
  const takes = useTakes();
  // biome-ignore lint/correctness/useExhaustiveDependencies: samples that arrive change what is written as well.
  useEffect(() => {
    handedStore.setState({ isBusy: true });
    let end = () => {};
    const timer = setTimeout(() => {
      end = ask(project, { kind: "write" }, (news) =>
        handedStore.setState({ handed: news?.kind === "write" ? news.handed : broken, isBusy: false }),
      );
    }, afterMs);
    return () => {
      clearTimeout(timer);
      end();
    };
  }, [project, takes]);
}

/** What in a piece of code differs from the project. */
export const readCode = (text: string): Promise<Result<ReadBack>> =>
  new Promise((resolve) => {
    ask(projectNow(), { kind: "read", text }, (news) => resolve(news?.kind === "read" ? news.back : broken));
  });

/** A table of what is on the bench, as text. */
export const writeTable = (table: TableAsk, format: TableFormat): Promise<Result<string>> =>
  new Promise((resolve) => {
    ask(projectNow(), { kind: "table", table, format }, (news) => resolve(news?.kind === "table" ? news.text : broken));
  });

/** The bench's sheets, page by page. */
export const layOutSheets = (paper: Paper, sheets: readonly SheetKind[]): Promise<Result<readonly SheetPage[]>> =>
  new Promise((resolve) => {
    ask(projectNow(), { kind: "sheets", paper, sheets }, (news) =>
      resolve(news?.kind === "sheets" ? news.pages : broken),
    );
  });

/** Takes chosen differences over; gives the sentence of a refusal, or null. */
export const takeNumbersBack = (chosen: readonly Difference[]): string | null =>
  editForField(takeOver(projectNow(), takesNow(), chosen));
