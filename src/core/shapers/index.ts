import type { Result } from "@core/result";
import { type KindSchema, kindTable, namesOf, type Range, type UnionOf, unionSchema } from "@core/schema";
import { add } from "./add";
import { change } from "./change";
import { combine } from "./combine";
import { curve } from "./curve";
import { deadband } from "./deadband";
import { detents } from "./detents";
import { latch } from "./latch";
import { limit } from "./limit";
import { press } from "./press";
import { rangeMap } from "./rangeMap";
import { rate } from "./rate";
import { sample } from "./sample";
import { scale } from "./scale";
import { select } from "./select";
import type { ShaperKind as Entry, Flow, OtherSource, Stage, Surroundings } from "./shaperKind";
import { smooth } from "./smooth";
import { threshold } from "./threshold";
import { toggle } from "./toggle";

export { amountIn } from "./flows";
export type { Flow, OtherSource, Stage, Surroundings } from "./shaperKind";
export { lagMsAt } from "./smooth";

/** Every kind of shaper, in the order in which they are offered. A new one is a file, and a line here. */
const table = kindTable({
  rangeMap,
  limit,
  deadband,
  curve,
  smooth,
  change,
  rate,
  detents,
  threshold,
  toggle,
  latch,
  press,
  sample,
  add,
  scale,
  combine,
  select,
});

/** One stage on the way from a source's number to a target. */
export const shaperSchema = unionSchema(table);
export type Shaper = UnionOf<typeof table>;
export type ShaperKind = Shaper["kind"];
export type ShaperOf<Kind extends ShaperKind> = Extract<Shaper, { kind: Kind }>;

const entryOf = (kind: ShaperKind) => table[kind] as unknown as Entry<KindSchema, Shaper>;

/** What each kind of shaper is called, in the order in which they are offered. */
export const shaperNames = namesOf(table);

/** A new shaper for a place where this range comes in; null where it needs another source and there is none that will do. */
export function newShaper(kind: ShaperKind, low: number, high: number, others: readonly OtherSource[]): Shaper | null {
  const range: Range = { low, high: Math.max(high, low + 1e-6) };
  return entryOf(kind).begin(range, others);
}

/** The other sources that a chain listens to. */
export const othersOf = (shapers: readonly Shaper[]): readonly string[] =>
  shapers.flatMap((shaper) => entryOf(shaper.kind).others?.(shaper) ?? []);

/** What leaves a shaper when this comes in; or why it cannot stand here. */
export const flowThrough = (shaper: Shaper, flow: Flow, others: readonly OtherSource[]): Result<Flow> =>
  entryOf(shaper.kind).flow(shaper, flow, others);

/** Puts a shaper to work. What comes in is always a number. */
export const stageOf = (shaper: Shaper, around: Surroundings): Stage => entryOf(shaper.kind).stage(shaper, around);

/** Whether what comes out of a shaper says anything once it has settled. */
export const settles = (shaper: Shaper): boolean => entryOf(shaper.kind).isMomentary !== true;
