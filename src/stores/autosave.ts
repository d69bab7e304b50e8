import type { Project } from "@core/project";
import type { ProjectStore } from "@storage/projectStore";
import { createStore } from "zustand/vanilla";
import { documentStore } from "./document";

export type SaveState =
  | { readonly kind: "saved"; readonly atMs: number }
  | { readonly kind: "waiting" }
  /** It is being written, and takes longer than it should. */
  | { readonly kind: "slow"; readonly sentence: string }
  | { readonly kind: "failed"; readonly sentence: string };

/** Short enough to lose nothing that anybody remembers doing, long enough not to write at every step of a drag. */
const afterMs = 300;
/** A drag that never rests is saved all the same, this long after its first change. */
const atMostMs = 800;
const againMs = 3000;
/** A save that takes longer than this says so. */
const slowAfterMs = 1000;

export const saveStore = createStore<SaveState>()(() => ({ kind: "saved", atMs: 0 }));

/**
 * Saves the document after every edit. Gives `flush`, which saves at once what is not saved yet, `again`, which saves all of it once more, and `stop`.
 * A save that fails is tried again until it succeeds, and says so meanwhile.
 */
export function startAutosave(store: Pick<ProjectStore, "save">) {
  let timer: ReturnType<typeof setTimeout> | undefined;
  let unsavedSinceMs: number | null = null;
  let saved: Project | null = documentStore.getState().project;
  /** Writes that are not over. While there are any, nobody knows yet what will stand on the disk. */
  let underWay = 0;

  /** Nothing is left to save. */
  function settle(): void {
    clearTimeout(timer);
    unsavedSinceMs = null;
    saveStore.setState({ kind: "saved", atMs: Date.now() }, true);
  }

  async function flush(): Promise<void> {
    clearTimeout(timer);
    const { project } = documentStore.getState();
    if (!project) return;
    if (project === saved && underWay === 0) {
      settle();
      return;
    }
    const slow = setTimeout(() => {
      const sentence =
        "Saving takes longer than usual: this browser is slow to write. Leave the page open until it says Saved.";
      saveStore.setState({ kind: "slow", sentence }, true);
    }, slowAfterMs);
    underWay += 1;
    try {
      await store.save(project, Date.now());
      saved = project;
      if (documentStore.getState().project === project) settle();
    } catch (error) {
      saveStore.setState({ kind: "failed", sentence: `This browser would not save: ${sayWhy(error)}` }, true);
      timer = setTimeout(flush, againMs);
    } finally {
      underWay -= 1;
      clearTimeout(slow);
    }
  }

  const unsubscribe = documentStore.subscribe(({ project }, before) => {
    if (project === before.project) return;
    if (project === saved && underWay === 0) {
      settle();
      return;
    }
    saveStore.setState({ kind: "waiting" }, true);
    clearTimeout(timer);
    unsavedSinceMs ??= Date.now();
    timer = setTimeout(flush, Math.max(0, Math.min(afterMs, unsavedSinceMs + atMostMs - Date.now())));
  });

  return {
    flush,
    again: () => {
      saved = null;
      return flush();
    },
    stop: () => {
      clearTimeout(timer);
      unsubscribe();
    },
  };
}

const sayWhy = (error: unknown) =>
  error instanceof Error && error.name === "QuotaExceededError"
    ? "its storage is full. Export the project, then free some space."
    : "its storage is not available. Export the project to keep your work.";
