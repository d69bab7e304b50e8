import { type KindSchema, kindTable, namesOf, type UnionOf, unionSchema } from "@core/schema";
import { both } from "./both";
import { drawn } from "./drawn";
import type { Demand, EasedCurve, EasingKind as Entry } from "./easingKind";
import { even } from "./even";
import { leastJerk } from "./leastJerk";
import { overshoot } from "./overshoot";
import { softEnd } from "./softEnd";
import { softStart } from "./softStart";

export type { Demand, EasedCurve } from "./easingKind";
export { leastJerkCurve } from "./leastJerk";
export { hermite, monotoneSlopes } from "./monotone";

/** Every kind of easing, in the order in which they are offered. A new one is a file, and a line here. */
const table = kindTable({ leastJerk, both, in: softStart, out: softEnd, even, overshoot, drawn });

/** How a move runs from its beginning to its end. */
export const easingSchema = unionSchema(table);
export type Easing = UnionOf<typeof table>;
export type EasingKind = Easing["kind"];
export type EasingOf<Kind extends EasingKind> = Extract<Easing, { kind: Kind }>;

const entryOf = (kind: EasingKind) => table[kind] as unknown as Entry<KindSchema, Easing>;

/** What each kind of easing is called, in the order in which they are offered. */
export const easingNames = namesOf(table);

/** An easing of a kind, as it begins. */
export const newEasing = (kind: EasingKind): Easing => entryOf(kind).begin();

/** The curve of an easing, for shares 0…1. */
export const easedBy = (easing: Easing): EasedCurve => entryOf(easing.kind).curve(easing);

/** The curve of an easing as expressions that code can have (see `EasingKind.formula`). */
export const formulaOf = (easing: Easing) => entryOf(easing.kind).formula(easing);

/** What an easing asks of a servo. */
export const demandOf = (easing: Easing): Demand => entryOf(easing.kind).demand(easing);
