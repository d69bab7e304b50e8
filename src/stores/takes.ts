import type { Project, TakeData, TakeLibrary } from "@core/project";
import type { ProjectStore } from "@storage/projectStore";
import { useStore } from "zustand";
import { createStore } from "zustand/vanilla";
import { giveTake } from "./live";
import { notify } from "./notices";

/**
 * The samples of the takes of the project on the bench. They lie beside the document and never change; the worker and the database have each
 * the same ones.
 */
const takesStore = createStore<{ readonly takes: TakeLibrary }>()(() => ({ takes: new Map() }));

/** Puts the samples of another project on the bench. */
export function layOutTakes(takes: readonly TakeData[]): void {
  takesStore.setState({ takes: new Map(takes.map((take) => [take.id, take])) });
  for (const take of takes) giveTake(take);
}

/** Adds samples, and keeps them. They are there before any edit names them. */
export async function keepTake(store: Pick<ProjectStore, "saveTake">, project: Project, take: TakeData): Promise<void> {
  takesStore.setState(({ takes }) => ({ takes: new Map(takes).set(take.id, take) }));
  giveTake(take);
  try {
    await store.saveTake(project.id, take);
  } catch {
    notify("This browser would not keep the samples of the take. Export the project to keep it.", "warning");
  }
}

export const takesNow = (): TakeLibrary => takesStore.getState().takes;

export const useTakes = (): TakeLibrary => useStore(takesStore, (state) => state.takes);
