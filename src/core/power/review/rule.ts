import type { Wiring } from "@core/project";
import type { Look } from "./look";

/** How bad it is: something may burn or break; it does not work; it is worth knowing. Worst first. */
export const weights = ["harm", "fails", "mind"] as const;
export type Weight = (typeof weights)[number];

/** A way out that can be taken by one click. */
export interface WayOut {
  readonly words: string;
  readonly wiring: Wiring;
}

/** What a concern is about: a thing on the bench, or a run of wire. */
export interface About {
  readonly kind: "supply" | "rail" | "board" | "joint" | "run";
  readonly id: string;
}

/** Something that a review has to say. */
export interface Concern {
  readonly weight: Weight;
  readonly about: About;
  readonly sentence: string;
  /** What to do where no click does it; null where the ways out are enough. */
  readonly advice: string | null;
  readonly waysOut: readonly WayOut[];
}

/** A rule of the review. */
export interface Rule {
  /** What it looks for, in a few words. */
  readonly name: string;
  /** Why it is a rule: what happens otherwise. */
  readonly why: string;
  readonly find: (look: Look) => readonly Concern[];
}

export const volts = (value: number): string => `${value.toFixed(value < 9.95 ? 2 : 1)} V`;
export const amps = (value: number): string =>
  value < 0.0995 ? `${Math.round(value * 1000)} mA` : `${value.toFixed(value < 9.95 ? 2 : 1)} A`;

/** The next of the sizes that things are sold in; the largest where none is large enough. */
export const nextSize = (sizes: readonly number[], least: number): number =>
  sizes.find((size) => size >= least) ?? (sizes.at(-1) as number);

/** What adapters and regulators are sold for, in mA. */
const soldMa = [
  1000, 2000, 3000, 4000, 5000, 6000, 8000, 10_000, 12_000, 15_000, 20_000, 30_000, 40_000, 60_000,
] as const;

/** A supply for so many amperes, with a fifth in reserve. */
export const limitForA = (needA: number): number => nextSize(soldMa, needA * 1200);

/** Names of a few, and how many there are besides. */
export function few(labels: readonly string[]): string {
  if (labels.length <= 3) return labels.join(", ").replace(/, ([^,]*)$/, " and $1");
  return `${labels.slice(0, 2).join(", ")} and ${labels.length - 2} more`;
}
