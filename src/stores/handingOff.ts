import type { HandedOff } from "@core/handOff";
import { problem, type Result } from "@core/result";
import type { HandOffOrder } from "@worker/handOffWorker";
import { useEffect } from "react";
import { useStore } from "zustand";
import { createStore } from "zustand/vanilla";
import { useProject } from "./document";
import { takesNow, useTakes } from "./takes";

/** What is handed off as the project stands; null until it was written the first time. */
const handedStore = createStore<{ readonly handed: Result<HandedOff> | null; readonly isBusy: boolean }>()(() => ({
  handed: null,
  isBusy: true,
}));

export const useHandedOff = () => useStore(handedStore);

/** So long after the last edit it is written anew. */
const afterMs = 150;

/** Writes what is handed off, and again after every edit, for as long as somebody looks at it. */
export function useHandingOff(): void {
  const project = useProject((current) => current);
  const takes = useTakes();
  // biome-ignore lint/correctness/useExhaustiveDependencies: samples that arrive change what is written as well.
  useEffect(() => {
    handedStore.setState({ isBusy: true });
    let worker: Worker | null = null;
    const timer = setTimeout(() => {
      worker = new Worker(new URL("../worker/handOffWorker.ts", import.meta.url), { type: "module" });
      const end = (handed: Result<HandedOff>) => {
        handedStore.setState({ handed, isBusy: false });
        worker?.terminate();
      };
      worker.onmessage = ({ data }: MessageEvent<Result<HandedOff>>) => end(data);
      worker.onerror = () =>
        end(problem("The code could not be written: that is a fault of Vantel. Leave something out, and try again."));
      worker.postMessage({ project, takes: [...takesNow().values()] } satisfies HandOffOrder);
    }, afterMs);
    return () => {
      clearTimeout(timer);
      worker?.terminate();
    };
  }, [project, takes]);
}
