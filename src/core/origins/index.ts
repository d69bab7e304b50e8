import { type KindSchema, kindTable, namesOf, type Range, type UnionOf, unionSchema } from "@core/schema";
import { button } from "./button";
import { cue } from "./cue";
import { encoder } from "./encoder";
import { gamepad } from "./gamepad";
import { handset } from "./handset";
import { key } from "./key";
import { keypad } from "./keypad";
import { knob } from "./knob";
import { line } from "./line";
import { midi } from "./midi";
import { mqtt } from "./mqtt";
import type { Begun, OriginKind as Entry, Moment } from "./originKind";
import { osc, oscAddress } from "./osc";
import { sacn } from "./sacn";
import { sensor } from "./sensor";
import { slider } from "./slider";
import { stick } from "./stick";
import { toggle } from "./toggle";
import { wave } from "./wave";

export { afarKeys, cueNameSchema } from "./afar";
export { type HandsetPart, handsetParts } from "./handset";
export type { Moment } from "./originKind";
export { oscAddress };

/** Every kind of origin, in the order in which they are offered. A new one is a file, and a line here. */
const table = kindTable({
  knob,
  slider,
  stick,
  encoder,
  button,
  toggle,
  keypad,
  key,
  gamepad,
  midi,
  line,
  mqtt,
  osc,
  sacn,
  cue,
  handset,
  sensor,
  wave,
});

/** Where a source's numbers come from. Whatever it is, it gives one number within its range. */
export const originSchema = unionSchema(table);
export type Origin = UnionOf<typeof table>;
export type OriginKind = Origin["kind"];
export type OriginOf<Kind extends OriginKind> = Extract<Origin, { kind: Kind }>;

const entryOf = (kind: OriginKind) => table[kind] as unknown as Entry<KindSchema, Origin>;

/** What each kind of origin is called, in the order in which they are offered. */
export const originNames = namesOf(table);

/** What a source of a kind begins with; a stick is two. */
export const beginOrigin = (kind: OriginKind, newId: () => string): readonly Begun<Origin>[] =>
  entryOf(kind).begin(newId);

/** Where the numbers come from, in a few words. */
export function originWords(origin: Origin): string {
  const { words, name } = entryOf(origin.kind);
  return words ? words(origin) : name.toLowerCase();
}

/** Whether an origin says on or off, and no amount. */
export const saysOnOff = (origin: Origin): boolean => entryOf(origin.kind).isSwitch?.(origin) ?? false;

/** Whether every change counts, also two within one tick of the bench. */
export const everyChangeCounts = (origin: Origin): boolean => entryOf(origin.kind).everyChangeCounts?.(origin) ?? false;

/** Whether an origin goes on giving numbers that nobody moves. */
export const isSteadyOrigin = (origin: Origin): boolean => entryOf(origin.kind).isSteady?.(origin) ?? false;

/** Whether an origin makes its numbers here, at any moment. */
export const makesItself = (origin: Origin): boolean => entryOf(origin.kind).valueAt !== undefined;

/** The number that an origin makes by itself at a moment; NaN for one that is given its numbers. */
export const valueAt = (origin: Origin, range: Range, moment: Moment): number =>
  entryOf(origin.kind).valueAt?.(origin, range, moment) ?? Number.NaN;

/** After how long a silence an origin that spoke has vanished, in ms; infinite for one that need not speak. */
export const silentAfterMs = (origin: Origin): number =>
  entryOf(origin.kind).silentAfterMs?.(origin) ?? Number.POSITIVE_INFINITY;

/** By what an origin is called that comes from afar (see `afar.ts`); null for any other. */
export const afarKeyOf = (origin: Origin): string | null => entryOf(origin.kind).afarKey?.(origin) ?? null;

/** What an origin shares with those that come and go with it; null for one that stands alone. */
export const partnersKey = (origin: Origin): string | null => entryOf(origin.kind).partnersKey?.(origin) ?? null;

/** The origin that waits for what is heard under a key (see `afar.ts`); null for a key that no origin has. */
export function originOfKey(key: string): Origin | null {
  const [, door, name = ""] = /^(\w+):(.+)$/.exec(key) ?? [];
  const [address = "", argument] = name.split("#");
  const [, universe, slot, bits] = /^(\d+)\/(\d+)(\/16)?$/.exec(name) ?? [];
  const usual = { isHand: true, silentAfterMs: null };
  const origin = {
    mqtt: { kind: "mqtt", topic: name, ...usual },
    osc: { kind: "osc", address, argument: Number(argument), ...usual },
    sacn: { kind: "sacn", universe: Number(universe), slot: Number(slot), isFine: bits !== undefined },
    cue: { kind: "cue", name },
  }[door ?? ""];
  const part = /^handset\/(\w+)$/.exec(name)?.[1];
  const read = originSchema.safeParse(door === "mqtt" && part ? { kind: "handset", part } : origin);
  return read.success ? (read.data as Origin) : null;
}
