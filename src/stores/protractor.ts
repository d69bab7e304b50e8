import { type Protractor, plainProtractor } from "@core/calibrate";
import { useStore } from "zustand";
import { createStore } from "zustand/vanilla";

const place = "vantel.protractor";

/** How this person's protractor is laid: a habit of the person, kept in the browser and not in the project. */
const protractorStore = createStore<Protractor>()(() => {
  const kept = typeof localStorage === "undefined" ? null : localStorage.getItem(place);
  return kept ? (JSON.parse(kept) as Protractor) : plainProtractor;
});

export function layProtractor(protractor: Protractor): void {
  protractorStore.setState(protractor, true);
  localStorage.setItem(place, JSON.stringify(protractor));
}

export const useProtractor = (): Protractor => useStore(protractorStore);
