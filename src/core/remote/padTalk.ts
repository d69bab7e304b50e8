import { padBookSchema } from "@core/pads";
import {
  atLeastZero,
  between,
  type DeepReadonly,
  finite,
  idSchema,
  labelSchema,
  listUpTo,
  textUpTo,
} from "@core/schema";
import * as z from "zod/mini";
import { rightsSchema } from "./rights";

/**
 * What a pad and the server say to one another. A pad says how its thumbs stand, all of them, again and again: a message that is lost, doubled or
 * overtaken leaves nothing behind, as the next says it all. Times are in ms of the pad's own clock.
 */
const count = z.int().check(z.gte(0), z.lte(2 ** 31));
const share = z.nullable(between(0, 1));

export const handSchema = z.strictObject({
  /** Which control it is on, or was. */
  id: idSchema,
  /** Shares of the range of what it moves, across and up; null for what is only pressed. */
  x: share,
  y: share,
  isDown: z.boolean(),
  /** How often it was put down since the page was opened, and when last: a press that a lost message held is not lost. */
  downs: count,
  downAtMs: finite,
});
export type Hand = DeepReadonly<z.infer<typeof handSchema>>;

/** More than ten fingers, and what they have just left. */
export const handsAtMost = 24;

export const padAskSchema = z.discriminatedUnion("kind", [
  z.strictObject({ kind: z.literal("hands"), seq: count, atMs: finite, hands: listUpTo(handSchema, handsAtMost) }),
  /** Releases everything; said again until it is answered. */
  z.strictObject({ kind: z.literal("release"), times: count }),
  z.strictObject({ kind: z.literal("time"), askedMs: finite, atMs: finite }),
]);
export type PadAsk = DeepReadonly<z.infer<typeof padAskSchema>>;

const number = z.nullable(finite);

/** How the bench stands, in the order of its pad book. */
export const benchStateSchema = z.strictObject({
  /** Of which book. */
  revision: atLeastZero,
  /** Target, actual (null where nobody can tell), and whether it is held. */
  joints: listUpTo(z.strictObject({ target: number, actual: number, isHeld: z.boolean() }), 200),
  /** Where each source stands, as a share of its range. */
  sources: listUpTo(number, 200),
  /** Who has a thumb on which control. */
  touches: listUpTo(z.strictObject({ deviceId: idSchema, who: labelSchema, controlId: idSchema }), 200),
  /** The routine that plays. */
  playing: z.nullable(idSchema),
});
export type BenchState = DeepReadonly<z.infer<typeof benchStateSchema>>;

export const padToldSchema = z.discriminatedUnion("kind", [
  z.strictObject({ kind: z.literal("welcome"), deviceId: idSchema, name: labelSchema }),
  z.strictObject({ kind: z.literal("book"), revision: atLeastZero, book: padBookSchema }),
  z.strictObject({ kind: z.literal("rights"), rights: rightsSchema }),
  z.strictObject({ kind: z.literal("state"), state: benchStateSchema }),
  /** Whether there is a bench at the other end. */
  z.strictObject({ kind: z.literal("bench"), isThere: z.boolean() }),
  z.strictObject({ kind: z.literal("time"), askedMs: finite }),
  z.strictObject({ kind: z.literal("released"), times: count }),
  /** Something that was refused, in words. */
  z.strictObject({ kind: z.literal("told"), sentence: textUpTo(300) }),
  /** From the thumb to the pulse. */
  z.strictObject({ kind: z.literal("lag"), ms: atLeastZero }),
  /** Thrown out. */
  z.strictObject({ kind: z.literal("out"), sentence: textUpTo(300) }),
]);
export type PadTold = DeepReadonly<z.infer<typeof padToldSchema>>;
