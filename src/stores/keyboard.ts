import { isTyping } from "./typing";

/**
 * Who may have a key press, the first before the others: what holds always (Esc, the palette), whoever is being taught a key, the station that is shown, the
 * sources of the project that are keys, and the actions of the bench. All but the first two leave alone who types, and a sheet that is open; the stage
 * (`data-stage`) is none.
 */
const layers = ["always", "learning", "station", "sources", "bench"] as const;
export type KeyLayer = (typeof layers)[number];

/**
 * Hears of a key press; says whether it was for this one, and then nobody after it hears of it. A key that is held down comes again and again, with `repeat`:
 * it is one press, but for what goes on step by step.
 */
export type KeyListener = (event: KeyboardEvent) => boolean;

const listeners = new Map<KeyLayer, Set<KeyListener>>(layers.map((layer) => [layer, new Set()]));
const releases = new Set<(code: string) => void>();
/** The keys that are down, by their place. */
const down = new Set<string>();
/** Those of them that were for somebody: a button that has the focus is not pressed by them, neither now nor when they come up. */
const taken = new Set<string>();
let isListening = false;

/** The one place at which this page listens to keys. Gives the way to stop. */
export function onKeys(layer: KeyLayer, listener: KeyListener): () => void {
  start();
  listeners.get(layer)?.add(listener);
  return () => void listeners.get(layer)?.delete(listener);
}

/** Hears of every key that is let go, by its place; also when the window is no longer looked at and would not be told. */
export function onKeyLetGo(listener: (code: string) => void): () => void {
  start();
  releases.add(listener);
  return () => void releases.delete(listener);
}

function start(): void {
  if (isListening) return;
  isListening = true;
  // Captured, so that nothing on the page can keep Esc for itself.
  window.addEventListener("keydown", onKeyDown, { capture: true });
  window.addEventListener(
    "keyup",
    (event) => {
      if (taken.delete(event.code)) event.preventDefault();
      letGo(event.code);
    },
    { capture: true },
  );
  window.addEventListener("blur", () => {
    taken.clear();
    for (const code of [...down]) letGo(code);
  });
}

function onKeyDown(event: KeyboardEvent): void {
  down.add(event.code);
  // A button that a held key presses again and again would begin and end, add and take away.
  if (event.repeat && event.key === "Enter" && event.target instanceof HTMLButtonElement) event.preventDefault();
  const isTaken = isTyping(event.target) || document.querySelector("dialog[open]:not([data-stage])") !== null;
  for (const layer of layers) {
    if (isTaken && layer !== "always" && layer !== "learning") return;
    for (const listener of listeners.get(layer) ?? []) {
      if (!listener(event)) continue;
      event.preventDefault();
      taken.add(event.code);
      if (layer === "learning") event.stopImmediatePropagation();
      return;
    }
  }
}

function letGo(code: string): void {
  down.delete(code);
  for (const listener of releases) listener(code);
}
