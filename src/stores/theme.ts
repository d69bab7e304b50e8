import { createStore } from "zustand/vanilla";

export const themeChoices = ["system", "day", "night"] as const;
export type ThemeChoice = (typeof themeChoices)[number];

/** The same place is read by the page before its first paint; see `layouts/Bench.astro`. */
const place = "vantel.theme";

const stored = (): ThemeChoice => {
  const kept = typeof localStorage === "undefined" ? null : localStorage.getItem(place);
  return themeChoices.find((choice) => choice === kept) ?? "system";
};

export const themeStore = createStore<{ readonly choice: ThemeChoice }>()(() => ({ choice: stored() }));

export function chooseTheme(choice: ThemeChoice): void {
  localStorage.setItem(place, choice);
  themeStore.setState({ choice });
  const isNight = choice === "night" || (choice === "system" && matchMedia("(prefers-color-scheme: dark)").matches);
  document.documentElement.dataset.theme = isNight ? "nightbench" : "daybench";
}

/** System → day → night → system. */
export function nextTheme(): void {
  const at = themeChoices.indexOf(themeStore.getState().choice);
  chooseTheme(themeChoices[(at + 1) % themeChoices.length] as ThemeChoice);
}
