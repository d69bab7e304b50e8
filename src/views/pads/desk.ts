import type { PadBook } from "@core/pads";
import type { BenchState } from "@core/remote";
import { createContext, useContext, useEffect } from "react";

/** What the controls of a pad lie on: where their thumbs go, and how the bench stands. On a phone that is the line to the bench; at the bench it is a picture. */
export interface PadDesk {
  readonly book: PadBook;
  /** The device of this page; null where it has none. */
  readonly deviceId: string | null;
  readonly put: (controlId: string, x: number | null, y: number | null) => void;
  readonly lift: (controlId: string, springs?: boolean) => void;
  /** Where this page's own thumb has put a control; null where none is on it. */
  readonly thumbOn: (controlId: string) => { readonly x: number | null; readonly y: number | null } | null;
  readonly state: () => BenchState | null;
  readonly onState: (listener: () => void) => () => void;
  /** Whether it may use what moves these joints. */
  readonly mayUse: (reaches: readonly string[]) => boolean;
}

export const DeskContext = createContext<PadDesk | null>(null);

export function useDesk(): PadDesk {
  const desk = useContext(DeskContext);
  if (!desk) throw new Error("A control lies on a pad.");
  return desk;
}

/** Draws anew whenever the bench says how it stands. */
export function useBenchState(draw: () => void): void {
  const desk = useDesk();
  useEffect(() => {
    draw();
    return desk.onState(draw);
  }, [desk, draw]);
}
