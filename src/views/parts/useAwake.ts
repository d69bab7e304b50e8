import { useEffect } from "react";

/** Keeps the screen awake while the page is seen, where the browser can; asked anew whenever it is seen again. */
export function useAwake(): void {
  useEffect(() => {
    let lock: WakeLockSentinel | null = null;
    let isOver = false;
    const ask = () => {
      if (document.visibilityState !== "visible" || !("wakeLock" in navigator)) return;
      navigator.wakeLock
        .request("screen")
        .then((held) => {
          if (isOver) void held.release();
          else lock = held;
        })
        // A low battery, or a page without a certificate: the screen sleeps as it always does.
        .catch(() => {});
    };
    ask();
    document.addEventListener("visibilitychange", ask);
    return () => {
      isOver = true;
      document.removeEventListener("visibilitychange", ask);
      void lock?.release();
    };
  }, []);
}
