import { createStore } from "zustand/vanilla";

/** Whether this browser may clear by itself what it keeps for Vantel, when its disk is nearly full; null while nobody knows. */
export const keepingStore = createStore<{ readonly mayBeCleared: boolean | null }>()(() => ({ mayBeCleared: null }));

/** Asks the browser not to clear it. Some ask the person then: so not before there is something of their own to keep. */
export async function askToKeep(): Promise<void> {
  try {
    const isKept = (await navigator.storage.persisted()) || (await navigator.storage.persist());
    keepingStore.setState({ mayBeCleared: !isKept });
  } catch {
    // A page without a secure origin is not asked, and never promised anything.
    keepingStore.setState({ mayBeCleared: true });
  }
}
