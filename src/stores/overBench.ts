import type { SymptomId } from "@core/symptoms";
import { createStore } from "zustand/vanilla";

/** The sheet that lies over the bench: one at a time, asked for by a key, a button or another sheet. */
export type OverBench =
  | { readonly kind: "palette" | "keys" }
  /** What is wrong with the selected joint; null until a person has said. */
  | { readonly kind: "symptoms"; readonly id: SymptomId | null };

export const overBench = createStore<{ readonly sheet: OverBench | null }>()(() => ({ sheet: null }));

export const layOver = (sheet: OverBench): void => overBench.setState({ sheet });

export const putAway = (): void => overBench.setState({ sheet: null });
