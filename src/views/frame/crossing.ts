import {
  navigate,
  TRANSITION_BEFORE_PREPARATION,
  TRANSITION_PAGE_LOAD,
  type TransitionBeforePreparationEvent,
} from "astro:transitions/client";
import { notify } from "@stores/notices";

/** What is pressed again within this is meant. */
const againWithinMs = 7000;

/**
 * Watches over the way from station to station. Left alone, one that cannot be fetched takes the whole page away with it, and one of another Vantel
 * would bring a second bench into this page. Gives the way to stop.
 */
export function watchCrossings(): () => void {
  let toldMs = Number.NEGATIVE_INFINITY;
  const onCrossing = (event: Event) => {
    const crossing = event as TransitionBeforePreparationEvent;
    const load = crossing.loader;
    crossing.loader = async () => {
      await load();
      if (crossing.signal.aborted) return;
      if (crossing.defaultPrevented) {
        if (await isThere(crossing.to)) return;
        notify("This station cannot be fetched: the server does not answer. The bench stays as it is.", "warning");
      } else {
        if (codeOf(crossing.newDocument) === codeOf(document)) return;
        const isMeant = performance.now() - toldMs < againWithinMs;
        toldMs = performance.now();
        if (isMeant) {
          crossing.preventDefault();
          return;
        }
        notify(
          "The server has another Vantel by now, and this page is still the one before. To load that one lets every servo go: ask for the station once more if you want it.",
          "warning",
        );
      }
      // The crossing ends here; the next one puts an end to this wait.
      await new Promise(() => {});
    };
  };
  document.addEventListener(TRANSITION_BEFORE_PREPARATION, onCrossing);
  document.addEventListener(TRANSITION_PAGE_LOAD, tellUnfetched);
  void tellUnfetched();
  return () => {
    document.removeEventListener(TRANSITION_BEFORE_PREPARATION, onCrossing);
    document.removeEventListener(TRANSITION_PAGE_LOAD, tellUnfetched);
  };
}

/** A station whose page came, but not the code of it: it says so in its place, where nothing else would ever stand. */
async function tellUnfetched(): Promise<void> {
  const island = document.querySelector("main astro-island");
  const url = island?.getAttribute("component-url");
  if (!island || !url) return;
  try {
    // The island asks for the same: it is fetched once.
    await import(/* @vite-ignore */ url);
  } catch {
    const words = document.createElement("div");
    words.className = "sheet mx-auto mt-16 max-w-xl";
    words.setAttribute("role", "alert");
    words.innerHTML = `<p>This station could not be fetched: the server does not answer, or has another Vantel by now. The bench goes on, and Release all lets it go.</p><button type="button" class="btn btn-primary mt-4">Fetch it again</button>`;
    words.querySelector("button")?.addEventListener("click", () => void navigate(location.pathname));
    island.replaceWith(words);
  }
}

/** The file that holds what stands around every station: each Vantel names its own. */
const codeOf = (page: Document) =>
  page.querySelector('astro-island[component-export="TopLine"]')?.getAttribute("component-url");

const isThere = (url: URL): Promise<boolean> =>
  fetch(url, { method: "HEAD" }).then(
    () => true,
    () => false,
  );
