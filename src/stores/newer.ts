import { createStore } from "zustand/vanilla";
import { startAnew } from "./session";

/**
 * A Vantel that is newer than this page. The service worker has fetched and kept all of it; it waits until no page of the old one is open, or is told to
 * come: nobody is given half of each.
 */
export const newerStore = createStore<{ readonly waiting: ServiceWorker | null }>()(() => ({ waiting: null }));

/** A page that stays open for days looks for one this often, when somebody looks at it. */
const lookEveryMs = 3_600_000;

/** Looks out for one from now on. A browser without service workers loads what the server has, and needs none of this. */
export async function lookForNewer(): Promise<void> {
  const { serviceWorker } = navigator;
  if (!serviceWorker) return;
  let isKept = serviceWorker.controller !== null;
  serviceWorker.addEventListener("controllerchange", () => {
    // The first one only begins to keep this very page.
    if (isKept) void startAnew();
    isKept = true;
  });
  const registration = await serviceWorker.ready;
  const look = () => newerStore.setState({ waiting: registration.waiting });
  registration.addEventListener("updatefound", () => registration.installing?.addEventListener("statechange", look));
  look();
  let lookedMs = Date.now();
  document.addEventListener("visibilitychange", () => {
    if (document.visibilityState === "hidden" || Date.now() - lookedMs < lookEveryMs) return;
    lookedMs = Date.now();
    void registration.update().catch(() => {});
  });
}

/** Has it come: every page of Vantel is loaded anew, which lets every servo go. */
export const loadNewer = (): void => newerStore.getState().waiting?.postMessage("come");
