import type { Pose } from "@core/project";
import { useStore } from "zustand";
import { createStore } from "zustand/vanilla";

/** Targets that are shown beside the live ones and move nothing: a pose that is looked at, a moment of a routine. */
const ghostStore = createStore<{ readonly targets: Pose["targets"] | null }>()(() => ({ targets: null }));

export const showGhost = (targets: Pose["targets"] | null): void => ghostStore.setState({ targets });

/** Where the ghost has a joint; null where there is none. */
export const useGhost = (jointId: string): number | null =>
  useStore(ghostStore, (state) => state.targets?.[jointId] ?? null);

export const ghostNow = (): Pose["targets"] | null => ghostStore.getState().targets;

/** Calls back when the ghost changes. Gives the way to stop. */
export const onGhost = (listener: () => void): (() => void) => ghostStore.subscribe(listener);
