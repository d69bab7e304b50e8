import { type ReactNode, useEffect } from "react";
import { createPortal } from "react-dom";

interface PrintSheetProps {
  readonly children: ReactNode;
  /** The browser's print window has closed. */
  readonly onDone: () => void;
}

/** Prints its children and nothing else of the page; on the screen they are not seen. */
export function PrintSheet({ children, onDone }: PrintSheetProps) {
  useEffect(() => {
    window.addEventListener("afterprint", onDone, { once: true });
    // After the paint, or the first sheet would be empty.
    const frame = requestAnimationFrame(() => window.print());
    return () => {
      cancelAnimationFrame(frame);
      window.removeEventListener("afterprint", onDone);
    };
  }, [onDone]);
  return createPortal(<div className="print-only">{children}</div>, document.body);
}
