import { notify } from "@stores/notices";

/** Browsers say so of a layout that needs one more turn: nothing is wrong. */
const isIdle = (why: string) => why.startsWith("ResizeObserver");

/** A fault that nobody caught is told: whoever pressed something must not wonder whether it was done. Gives the way to stop. */
export function tellFaults(): () => void {
  const tell = (error: unknown) => {
    const why = error instanceof Error ? error.message : String(error);
    const isGivenUp = error instanceof DOMException && error.name === "AbortError";
    if (isIdle(why) || isGivenUp) return;
    notify(`The page met a fault of its own; what you asked may not be done: ${why}`, "warning");
  };
  const onError = ({ error, message }: ErrorEvent) => tell(error ?? message);
  const onRejection = ({ reason }: PromiseRejectionEvent) => tell(reason);
  window.addEventListener("error", onError);
  window.addEventListener("unhandledrejection", onRejection);
  return () => {
    window.removeEventListener("error", onError);
    window.removeEventListener("unhandledrejection", onRejection);
  };
}
