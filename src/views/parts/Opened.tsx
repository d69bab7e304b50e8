import { useIsOpen, useProject } from "@stores/document";
import { bringBenchHere, openBench, sessionStore, startAnew } from "@stores/session";
import { type ReactNode, useEffect, useRef } from "react";
import { useStore } from "zustand";
import { Apart, Guard, type ViewFault } from "./Guard";

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
  if (isOpen && !isStation) return <Apart>{children}</Apart>;
  if (isOpen) return <Guard instead={(fault, again) => <StationFault fault={fault} again={again} />}>{children}</Guard>;
  return isStation ? <p className="caption p-8 text-center">Laying out the bench…</p> : null;
}

interface FaultProps {
  readonly fault: ViewFault;
  readonly again: () => void;
}

/** A station that broke: the rest of the page stands, and after the next change, an undo say, it is tried again by itself. */
function StationFault({ fault: { why, isUnfetched }, again }: FaultProps) {
  const project = useProject((current) => current);
  const broken = useRef(project);
  useEffect(() => {
    if (project !== broken.current) again();
  }, [project, again]);
  return (
    <div className="sheet mx-auto mt-16 max-w-xl" role="alert">
      <h1 className="heading text-xl">This station cannot be shown</h1>
      <p className="mt-2">
        {why} {isUnfetched ? "" : "That is a fault of this page. Undo the last change if it came with that."}
      </p>
      <p className="mt-2">
        The bench goes on and your work is kept: what was driven is driven, and Release all lets it go. To load the page
        again lets go as well.
      </p>
      <div className="mt-4 flex gap-2">
        <button type="button" className="btn btn-primary" onClick={again}>
          Show it again
        </button>
        <button type="button" className="btn btn-outline" onClick={() => void startAnew()}>
          Load the page again
        </button>
      </div>
    </div>
  );
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
