import { onKeys } from "@stores/keyboard";
import { layOver } from "@stores/overBench";
import { keyedActions, releaseAll } from "./actions";

const byKey = new Map(keyedActions.flatMap((action) => (action.keys ?? []).map((key) => [key, action] as const)));
// It is heard always, and is never kept from what else it does: whatever is open closes on it.
byKey.delete("Escape");
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

/** The keys of the bench. Esc releases everything, whatever has the focus and whatever is open; the other keys leave fields alone. */
export function listenToKeys(): () => void {
  const stopAlways = onKeys("always", (event) => {
    if (event.key === "Escape") {
      releaseAll();
      return false;
    }
    if (keyOf(event) !== "Ctrl+K") return false;
    layOver({ kind: "palette" });
    return true;
  });
  const stopBench = onKeys("bench", (event) => {
    // A show is played there, and nothing changed: the stage has a key of its own.
    if (document.querySelector("dialog[data-stage]")) return false;
    if (event.key === "?") {
      if (!event.repeat) layOver({ kind: "keys" });
      return true;
    }
    const action = byKey.get(keyOf(event));
    if (!action) return false;
    // A key that is held down is one press, but for those that go on step by step.
    if (!event.repeat || action.repeats) action.run();
    return true;
  });
  return () => {
    stopAlways();
    stopBench();
  };
}
