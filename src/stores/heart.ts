import { createStore } from "zustand/vanilla";
import { endWorker, timesShown } from "./bridge";
import { notify } from "./notices";

/**
 * Whether the bench worker is alive: also a bench at rest is shown five times a second, after a tick that went well. What it drives goes past the
 * page, so a page that only shows what it heard last would look well for ever. Other words of the worker count for nothing: a bench whose every
 * tick breaks still hands on what the server says.
 */
type Heart =
  | "beats"
  /** Nothing was shown for a while: nothing is driven, or nobody knows. */
  | "still"
  /** It did not answer to Release all, and was ended: its wires are closed, so every board lets go as it is set to. */
  | "ended";

export const heartStore = createStore<{ readonly heart: Heart }>()(() => ({ heart: "beats" }));

const lookEveryMs = 500;
/** A look that comes later than this tells of a page that stood still itself. */
const lateMs = 1200;
/** A worker that is on its way may be fetched over a slow line first. */
const looksAtFirst = 40;
const looksUntilStill = 6;
/** As long as the server waits for a page before it lets a board go. */
const looksUntilEnded = 4;

/** Watches over the worker from now on. Gives the way to stop. */
export function watchHeart(): () => void {
  let [shown, silentLooks, lookedMs] = [timesShown(), 0, performance.now()];
  let isKnown = false;
  const look = () => {
    const nowMs = performance.now();
    const isOnTime = nowMs - lookedMs < lateMs;
    lookedMs = nowMs;
    const isShown = timesShown() !== shown;
    shown = timesShown();
    isKnown ||= isShown;
    silentLooks = isOnTime && !isShown ? silentLooks + 1 : 0;
    if (isShown) releasedLooks = null;
    else if (releasedLooks !== null && isOnTime) releasedLooks += 1;
    if ((releasedLooks ?? 0) >= (isKnown ? looksUntilEnded : looksAtFirst)) end();
    else if (heartStore.getState().heart !== "ended")
      setHeart(silentLooks < (isKnown ? looksUntilStill : looksAtFirst) ? "beats" : "still");
  };
  const timer = setInterval(look, lookEveryMs);
  return () => {
    clearInterval(timer);
    releasedLooks = null;
    setHeart("beats");
  };
}

/** Looks since everything was to be released, with no bench shown; null where that was not asked, or it was shown since. */
let releasedLooks: number | null = null;

/** Everything was told to be released: a worker that shows no bench after that is ended, which closes its wires. */
export function mustAnswer(): void {
  releasedLooks ??= 0;
}

function setHeart(heart: Heart): void {
  if (heartStore.getState().heart === heart) return;
  heartStore.setState({ heart });
  if (heart === "still")
    notify("The bench does not answer: nothing is driven meanwhile. The links at the top say more.", "warning");
}

function end(): void {
  releasedLooks = null;
  endWorker();
  setHeart("ended");
  notify(
    "The bench did not answer to Release all, and was ended: its wires are closed, and each board lets go as it is set to. Start it anew from the links at the top.",
    "warning",
  );
}
