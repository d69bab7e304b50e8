import { type KindSchema, kindTable, namesOf, type UnionOf, unionSchema } from "@core/schema";
import { button } from "./button";
import type { ControlKind as Entry, Span, Works } from "./controlKind";
import { grip } from "./grip";
import { knob } from "./knob";
import { places } from "./places";
import { pose } from "./pose";
import { routine } from "./routine";
import { slider } from "./slider";
import { stick } from "./stick";
import { stop } from "./stop";

export type { Span, Works } from "./controlKind";

/** Every kind of control that a pad may have, in the order in which they are offered. A new one is a file, and a line here. */
const table = kindTable({ slider, knob, stick, button, places, grip, pose, routine, stop });

/** Something on a pad that a thumb works. */
export const controlSchema = unionSchema(table);
export type Control = UnionOf<typeof table>;
export type ControlKind = Control["kind"];
export type ControlOf<Kind extends ControlKind> = Extract<Control, { kind: Kind }>;

const entryOf = (kind: ControlKind) => table[kind] as unknown as Entry<KindSchema, Control>;

/** What each kind of control is called. */
export const controlNames = namesOf(table);

/** How large a control of a kind begins, in fields of its pad. */
export const usualSpan = (kind: ControlKind): Span => entryOf(kind).span;

/** What a control works, by id. */
export const worksOf = (control: Control): Works => entryOf(control.kind).works(control);

/** The sources that a control moves; none for one that acts. */
export const sourcesOf = (control: Control): readonly string[] => worksOf(control).sourceIds ?? [];

/** Whether a control moves something only while a thumb is on it. */
export const isHeldToMove = (control: Control): boolean => "isHeldToMove" in control && control.isHeldToMove;
