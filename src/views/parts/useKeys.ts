import { useEffect, useRef } from "react";

/**
 * Listens for single keys on the whole page while this is shown, except while somebody types. Keys by lower-case name.
 * What is run is told the moment of the press (ms), which is earlier than the call when the page is busy.
 */
export function useKeys(keys: Readonly<Record<string, (atMs: number) => void>>): void {
  const current = useRef(keys);
  current.current = keys;
  useEffect(() => {
    const onKeyDown = (event: KeyboardEvent) => {
      if (event.ctrlKey || event.metaKey || event.altKey) return;
      if (event.target instanceof HTMLInputElement || event.target instanceof HTMLSelectElement) return;
      const run = current.current[event.key.toLowerCase()];
      if (!run) return;
      event.preventDefault();
      run(event.timeStamp);
    };
    window.addEventListener("keydown", onKeyDown);
    return () => window.removeEventListener("keydown", onKeyDown);
  }, []);
}
