import { powersOfTwo } from "@core/timer";
import { createStore } from "zustand/vanilla";

const place = "vantel.prescalers";

/** The prescalers of a person's own timer, as they typed them: the same from one visit to the next, whatever the project. */
export const prescalerStore = createStore<{ readonly text: string }>()(() => ({
  text: (typeof localStorage !== "undefined" && localStorage.getItem(place)) || powersOfTwo.join(", "),
}));

/** Remembers a set; an empty one brings the usual set back at the next visit. */
export function keepPrescalers(text: string): void {
  prescalerStore.setState({ text });
  try {
    localStorage.setItem(place, text);
  } catch {
    // A browser that keeps nothing still plans.
  }
}
