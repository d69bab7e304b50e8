import type { Clip } from "@core/project";
import type { ChosenKey, CopiedKey, LoopRange } from "@core/routine";
import type { Step } from "@core/steps";
import { useStore } from "zustand";
import { createStore } from "zustand/vanilla";

/** What is copied in one routine and pasted in another, or later in the same. */
export type Copied =
  | { readonly kind: "steps"; readonly steps: readonly Step[] }
  | { readonly kind: "keys"; readonly keys: readonly CopiedKey[] }
  | { readonly kind: "clips"; readonly clips: readonly Clip[] };

interface ScoreView {
  readonly routineId: string | null;
  readonly stepIds: readonly string[];
  readonly keys: readonly ChosenKey[];
  readonly clipIds: readonly string[];
  /** The moment that is looked at while nothing plays, in ms. */
  readonly cursorMs: number;
  /** What of the time is in view; null for all of it. */
  readonly window: { readonly fromMs: number; readonly msPerPx: number } | null;
  readonly isSnapping: boolean;
  readonly range: LoopRange | null;
  readonly copied: Copied | null;
}

/** What the station Routine looks at and has chosen. It stays as it was when one comes back. */
export const scoreView = createStore<ScoreView>()(() => ({
  routineId: null,
  stepIds: [],
  keys: [],
  clipIds: [],
  cursorMs: 0,
  window: null,
  isSnapping: true,
  range: null,
  copied: null,
}));

export const useScoreView = <Part>(select: (view: ScoreView) => Part): Part => useStore(scoreView, select);

/** Shows another routine, from its beginning. */
export const openRoutine = (routineId: string): void =>
  scoreView.setState({ routineId, stepIds: [], keys: [], clipIds: [], cursorMs: 0, window: null, range: null });

export function chooseStep(id: string, how: "alone" | "toggle" | "range", order: readonly string[]): void {
  scoreView.setState(({ stepIds }) => {
    if (how === "toggle")
      return {
        stepIds: stepIds.includes(id) ? stepIds.filter((one) => one !== id) : [...stepIds, id],
        keys: [],
        clipIds: [],
      };
    const from = order.indexOf(stepIds.at(-1) ?? "");
    const to = order.indexOf(id);
    const ids = how === "range" && from >= 0 ? order.slice(Math.min(from, to), Math.max(from, to) + 1) : [id];
    return { stepIds: ids, keys: [], clipIds: [] };
  });
}

/** The grid that times are snapped to, in ms: as fine as can be seen. */
export const gridMs = (msPerPx: number): number =>
  [10, 20, 50, 100, 250, 500, 1000, 5000].find((step) => step / msPerPx >= 6) ?? 10_000;

/** A moment on the grid, unless snapping is off or held off by Alt. */
export const snapped = (ms: number, msPerPx: number, isFree: boolean): number => {
  const grid = isFree || !scoreView.getState().isSnapping ? 1 : gridMs(msPerPx);
  return Math.max(0, Math.round(ms / grid) * grid);
};
