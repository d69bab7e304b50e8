import { isTyping } from "@stores/typing";
import { keyedActions, releaseAll } from "./actions";

const byKey = new Map(keyedActions.flatMap((action) => (action.keys ?? []).map((key) => [key, action] as const)));
/** By place on the keyboard where a modifier would change the character. */
const byPlace: Readonly<Record<string, string>> = { Comma: ",", Period: "." };

/** The name of a key press, as actions name their keys: "Ctrl+Shift+Z", "Alt+,", "H". */
function keyOf(event: KeyboardEvent): string {
  const key = byPlace[event.code] ?? (event.key.length === 1 ? event.key.toUpperCase() : event.key);
  const isLetterOrPlace = /^[A-Z,.]$/.test(key);
  return [
    event.ctrlKey || event.metaKey ? "Ctrl+" : "",
    event.altKey ? "Alt+" : "",
    event.shiftKey && isLetterOrPlace ? "Shift+" : "",
    key,
  ].join("");
}

interface SheetKeys {
  readonly onPalette: () => void;
  readonly onKeySheet: () => void;
}

/**
 * Listens to the whole page. Esc releases everything, whatever has the focus and whatever is open;
 * the other keys leave fields alone.
 */
export function listenToKeys({ onPalette, onKeySheet }: SheetKeys): () => void {
  const onKeyDown = (event: KeyboardEvent) => {
    const key = keyOf(event);
    if (event.key === "Escape") {
      releaseAll();
      return;
    }
    if (key === "Ctrl+K") {
      event.preventDefault();
      onPalette();
      return;
    }
    if (isTyping(event.target) || document.querySelector("dialog[open]")) return;
    if (event.key === "?" && !event.repeat) {
      onKeySheet();
      return;
    }
    const action = byKey.get(key);
    if (!action) return;
    event.preventDefault();
    // A key that is held down is one press, but for those that go on step by step.
    if (!event.repeat || action.repeats) action.run();
  };
  // Captured, so that nothing on the page can keep Esc for itself.
  window.addEventListener("keydown", onKeyDown, { capture: true });
  return () => window.removeEventListener("keydown", onKeyDown, { capture: true });
}
