import { useStore } from "zustand";
import { createStore } from "zustand/vanilla";
import { openTab } from "./stationTabs";

/** Which case the numbers in the drawing are of: what flows now, or all servos in one state. */
export type PowerCase = "now" | "standing" | "moving" | "starting";
export interface Chosen {
  readonly kind: "supply" | "rail" | "board" | "joint" | "run";
  readonly id: string;
}

interface PowerView {
  readonly shows: PowerCase;
  readonly chosen: Chosen | null;
  readonly routineId: string | null;
  /** How full batteries are taken to be, 0 to 1. */
  readonly charge: number;
}

/** What the station Power looks at. It stays as it was when one comes back. */
export const powerView = createStore<PowerView>()(() => ({
  shows: "moving",
  chosen: null,
  routineId: null,
  charge: 0.5,
}));

export const usePowerView = <Part>(select: (view: PowerView) => Part): Part => useStore(powerView, select);

/** Opens a thing or a wire beside the drawing. */
export function choosePower(chosen: Chosen | null): void {
  if (chosen) openTab("power", "things");
  powerView.setState({ chosen });
}
