import { onKeys } from "@stores/keyboard";
import { useEffect, useRef } from "react";

/**
 * Listens for single keys while a station is shown, except while somebody types. Keys by lower-case name; one that is held down
 * is one press: an answer that nobody gave must not walk a search on.
 * What is run is told the moment of the press (ms), which is earlier than the call when the page is busy.
 */
export function useKeys(keys: Readonly<Record<string, (atMs: number) => void>>): void {
  const current = useRef(keys);
  current.current = keys;
  useEffect(
    () =>
      onKeys("station", (event) => {
        if (event.ctrlKey || event.metaKey || event.altKey) return false;
        const run = current.current[event.key.toLowerCase()];
        if (run && !event.repeat) run(event.timeStamp);
        return run !== undefined;
      }),
    [],
  );
}
