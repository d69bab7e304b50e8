import { useEffect, useRef } from "react";

/** Listens for single keys on the whole page while this is shown, except while somebody types. Keys by lower-case name. */
export function useKeys(keys: Readonly<Record<string, () => void>>): void {
  const current = useRef(keys);
  current.current = keys;
  useEffect(() => {
    const onKeyDown = (event: KeyboardEvent) => {
      if (event.ctrlKey || event.metaKey || event.altKey) return;
      if (event.target instanceof HTMLInputElement || event.target instanceof HTMLSelectElement) return;
      const run = current.current[event.key.toLowerCase()];
      if (!run) return;
      event.preventDefault();
      run();
    };
    window.addEventListener("keydown", onKeyDown);
    return () => window.removeEventListener("keydown", onKeyDown);
  }, []);
}
