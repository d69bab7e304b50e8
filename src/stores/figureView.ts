import { useStore } from "zustand";
import { createStore } from "zustand/vanilla";

interface FigureView {
  /** The rig whose figure is worked on; the selected joint's until one is chosen. */
  readonly rigId: string | null;
  readonly partId: string | null;
  readonly tipId: string | null;
  readonly thingId: string | null;
  /** Whether a dragged hand keeps the direction in which it points. */
  readonly keepsDirection: boolean;
  /** In whose directions a hand is moved by keys and numbers. */
  readonly directions: "world" | "hand";
  readonly showsReach: boolean;
  /** What the chosen hand carries, in g: for weights only. */
  readonly carriedG: number;
}

/** What the station Figure looks at. It stays as it was when one comes back. */
export const figureView = createStore<FigureView>()(() => ({
  rigId: null,
  partId: null,
  tipId: null,
  thingId: null,
  keepsDirection: false,
  directions: "world",
  showsReach: false,
  carriedG: 0,
}));

export const useFigureView = <Part>(select: (view: FigureView) => Part): Part => useStore(figureView, select);
