import { type DeepReadonly, idSchema, type KindSchema, textUpTo, type ValueOf, wholeBetween } from "@core/schema";
import * as z from "zod/mini";

/** How many fields of its pad a control takes up. */
const spanSchema = z.strictObject({ wide: wholeBetween(1, 4), high: wholeBetween(1, 4) });
export type Span = DeepReadonly<z.infer<typeof spanSchema>>;

/** What every control has. An empty label is that of what it works. */
export const common = { id: idSchema, label: textUpTo(40), span: spanSchema };

/** It moves nothing but while a thumb is on it. */
export const heldToMove = { isHeldToMove: z.boolean() };

/** What a control works, by id. */
export interface Works {
  readonly sourceIds?: readonly string[];
  readonly poseId?: string;
  readonly routineId?: string;
  readonly jointId?: string;
}

/** All that there is to a kind of control on a pad, but how it is drawn and what it does to the bench. */
export interface ControlKind<Schema extends KindSchema = KindSchema, Control = ValueOf<Schema>> {
  readonly schema: Schema;
  /** What it is called when one is added. */
  readonly name: string;
  /** How large it begins. */
  readonly span: Span;
  works(control: Control): Works;
}
