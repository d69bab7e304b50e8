import { type KindSchema, kindTable, namesOf, type UnionOf, unionSchema } from "@core/schema";
import { bus } from "./bus";
import { counts } from "./counts";
import type { EncodingKind as Entry, Wanted } from "./encodingKind";
import type { SignalMaker } from "./maker";
import { microseconds } from "./microseconds";
import { percent } from "./percent";
import { pulseChip } from "./pulseChip";
import { software } from "./software";
import { timer } from "./timer";

export * from "./frame";
export { countWithin, type Rounding, type SignalMaker } from "./maker";
export { pulseChipPrescale } from "./pulseChip";
export { latenessPresets, sleepsFor, type WakeLateness } from "./software";
export { timerPeriodUs, timerTickUs, timerTop } from "./timer";

/** Every way of making signals, in the order in which they are offered. A new one is a file, and a line here. */
const table = kindTable({ percent, counts, pulseChip, timer, microseconds, software, bus });

/** How a board turns a set point into the whole number it can really make. */
export const encodingSchema = unionSchema(table);
export type Encoding = UnionOf<typeof table>;
export type EncodingKind = Encoding["kind"];
export type EncodingOf<Kind extends EncodingKind> = Extract<Encoding, { kind: Kind }>;

const entryOf = (kind: EncodingKind) => table[kind] as unknown as Entry<KindSchema, Encoding>;

/** What each way of making signals is called, in the order in which they are offered. */
export const encodingNames = namesOf(table);

/** The settings that a way of making signals begins with. */
export const newEncoding = <Kind extends EncodingKind>(kind: Kind): EncodingOf<Kind> =>
  entryOf(kind).begin() as EncodingOf<Kind>;

/** How a way of making signals makes them at a wished frame rate, in Hz. */
export const makerOf = (encoding: Encoding, frameHz: number): SignalMaker =>
  entryOf(encoding.kind).maker(encoding, frameHz);

/** The most digits that a number for a board has; 0 on a bus, which takes none. */
export const mostDigits = (encoding: Encoding): number => entryOf(encoding.kind).mostDigits(encoding);

/** From the set point to the exact number, line by line, as a person would work it out. */
export const encodingWorking = (encoding: Encoding, asked: Wanted): readonly string[] =>
  entryOf(encoding.kind).working(encoding, asked);

/** Why an encoding cannot make this frame rate, each with what would do. */
export const encodingProblems = (encoding: Encoding, askedHz: number): readonly string[] =>
  entryOf(encoding.kind).problems?.(encoding, askedHz) ?? [];
