import { useIsOpen } from "@stores/document";
import { bringBenchHere, openBench, sessionStore } from "@stores/session";
import { type ReactNode, useEffect } from "react";
import { useStore } from "zustand";

interface OpenedProps {
  readonly children: ReactNode;
  /** The station's own place: it also tells when the bench is in another tab. */
  readonly isStation?: boolean;
}

/** Opens the bench and shows its children once the project lies on it. */
export function Opened({ children, isStation = false }: OpenedProps) {
  const isOpen = useIsOpen();
  const session = useStore(sessionStore, ({ kind }) => kind);
  useEffect(() => void openBench(), []);
  if (session === "elsewhere") return isStation ? <Elsewhere /> : null;
  if (isOpen) return children;
  return isStation ? <p className="caption p-8 text-center">Laying out the bench…</p> : null;
}

function Elsewhere() {
  return (
    <div className="sheet mx-auto mt-16 max-w-xl text-center" role="alert">
      <h1 className="heading text-xl">The bench is open in another tab</h1>
      <p className="mt-2">
        Two tabs would drive the same servos against each other, so only one has the bench at a time. Close the other,
        or bring the bench to this one.
      </p>
      <button type="button" className="btn btn-primary mt-4" onClick={bringBenchHere}>
        Bring it here
      </button>
    </div>
  );
}
