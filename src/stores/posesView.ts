import type { PoseUnit } from "@core/pose";
import { useStore } from "zustand";
import { createStore } from "zustand/vanilla";

interface PosesView {
  /** The poses that are chosen; the last one is shown. */
  readonly chosenIds: readonly string[];
  readonly search: string;
  /** What the shown pose is held against: a pose, or where they stand now. */
  readonly againstId: string | null;
  /** Whether the dial edits the pose instead of moving the joint. */
  readonly isAiming: boolean;
  /** In what the numbers of a pose are written. */
  readonly unit: PoseUnit;
}

/** What the station Poses looks at. It stays as it was when one comes back. */
export const posesView = createStore<PosesView>()(() => ({
  chosenIds: [],
  search: "",
  againstId: null,
  isAiming: false,
  unit: "deg",
}));

export const usePosesView = <Part>(select: (view: PosesView) => Part): Part => useStore(posesView, select);

/** Chooses a pose: alone, or added to or taken from the others, or with all up to it in the order of the list. */
export function choosePose(id: string, how: "alone" | "toggle" | "range", order: readonly string[]): void {
  posesView.setState(({ chosenIds }) => {
    if (how === "toggle")
      return { chosenIds: chosenIds.includes(id) ? chosenIds.filter((one) => one !== id) : [...chosenIds, id] };
    const from = order.indexOf(chosenIds.at(-1) ?? "");
    const to = order.indexOf(id);
    if (how === "range" && from >= 0)
      return {
        chosenIds: [...order.slice(Math.min(from, to), Math.max(from, to) + 1).filter((one) => one !== id), id],
      };
    return { chosenIds: [id] };
  });
}

/** The units of a pose's numbers, by name. */
export const poseUnits: readonly (readonly [PoseUnit, string])[] = [
  ["deg", "degrees"],
  ["percent", "% of the travel"],
  ["setPoint", "what is sent (µs, ticks)"],
];
