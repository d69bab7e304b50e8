import { padBookSchema } from "@core/pads";
import { atLeastZero, type DeepReadonly, finite, idSchema, listUpTo, textUpTo } from "@core/schema";
import * as z from "zod/mini";
import { logEntrySchema } from "./doorLog";
import { actSchema, doorSettingsSchema, doorsStandingSchema, handsetSchema, saidSchema, wantsSchema } from "./doors";
import { benchStateSchema, handSchema, handsAtMost } from "./padTalk";
import { deviceSchema } from "./rights";

/**
 * What the bench and its server say to one another about what comes from afar. The bench is a page of this computer; the server is its doorman. Times are
 * in ms since 1970 by the clock of whoever says them.
 */
export const benchAskSchema = z.discriminatedUnion("kind", [
  /** Said every half second: a bench that is silent for two is gone. */
  z.strictObject({ kind: z.literal("here"), atMs: finite }),
  z.strictObject({ kind: z.literal("book"), revision: atLeastZero, book: padBookSchema }),
  z.strictObject({ kind: z.literal("state"), state: benchStateSchema }),
  z.strictObject({ kind: z.literal("released"), deviceId: idSchema, times: atLeastZero }),
  z.strictObject({ kind: z.literal("told"), deviceId: idSchema, sentence: textUpTo(300) }),
  /** From the thumb of a device to the pulse, in ms: the middle of the last ones. */
  z.strictObject({ kind: z.literal("lag"), deviceId: idSchema, ms: atLeastZero }),
  /** Listens on the local network, or no more. */
  z.strictObject({ kind: z.literal("letIn"), isOpen: z.boolean(), isTls: z.boolean() }),
  /** Shows a code that lets one device in. */
  z.strictObject({ kind: z.literal("code") }),
  z.strictObject({ kind: z.literal("device"), device: deviceSchema }),
  z.strictObject({ kind: z.literal("throwOut"), deviceId: idSchema }),
  z.strictObject({ kind: z.literal("doors"), settings: doorSettingsSchema }),
  z.strictObject({ kind: z.literal("wants"), wants: wantsSchema }),
  z.strictObject({ kind: z.literal("says"), said: listUpTo(saidSchema, 201) }),
  z.strictObject({ kind: z.literal("cue"), name: textUpTo(40) }),
  z.strictObject({ kind: z.literal("handset"), handset: handsetSchema }),
]);
export type BenchAsk = DeepReadonly<z.infer<typeof benchAskSchema>>;

/** How the doors stand. */
export const standingSchema = z.strictObject({
  isOpen: z.boolean(),
  isTls: z.boolean(),
  /** Where a phone finds the pads, the likeliest first; on this computer alone while nobody else is let in. */
  addresses: listUpTo(textUpTo(100), 16),
  /** Why it could not be opened; empty where all is well. */
  trouble: textUpTo(300),
  /** Good for so long from now: clocks may be set, and stand still while a computer sleeps. */
  code: z.nullable(z.strictObject({ digits: textUpTo(12), leftMs: finite })),
  devices: listUpTo(
    z.strictObject({
      device: deviceSchema,
      isHere: z.boolean(),
      address: textUpTo(64),
      /** What it is, as far as its browser says. */
      agent: textUpTo(80),
      cameMs: finite,
      seenMs: finite,
    }),
    64,
  ),
});
export type Standing = DeepReadonly<z.infer<typeof standingSchema>>;

export const benchToldSchema = z.discriminatedUnion("kind", [
  /** Answers “here”. */
  z.strictObject({ kind: z.literal("time"), askedMs: finite, atMs: finite }),
  z.strictObject({ kind: z.literal("standing"), standing: standingSchema }),
  z.strictObject({ kind: z.literal("log"), entries: listUpTo(logEntrySchema, 300) }),
  z.strictObject({
    kind: z.literal("hands"),
    deviceId: idSchema,
    run: atLeastZero,
    seq: atLeastZero,
    /** When it left the device, by the server's clock. */
    sentMs: finite,
    hands: listUpTo(handSchema, handsAtMost),
  }),
  z.strictObject({ kind: z.literal("release"), deviceId: idSchema, times: atLeastZero }),
  /** The connection of a device is closed. */
  z.strictObject({ kind: z.literal("lost"), deviceId: idSchema }),
  /** Another machine said a number; when, by the server's clock. */
  z.strictObject({ kind: z.literal("afar"), key: textUpTo(200), value: finite, atMs: finite }),
  /** Whoever fed these is gone. */
  z.strictObject({ kind: z.literal("vanished"), keys: listUpTo(textUpTo(200), 400), who: textUpTo(80) }),
  z.strictObject({ kind: z.literal("act"), who: textUpTo(80), act: actSchema }),
  z.strictObject({ kind: z.literal("doors"), doors: doorsStandingSchema }),
  z.strictObject({ kind: z.literal("refused"), sentence: textUpTo(300) }),
]);
export type BenchTold = DeepReadonly<z.infer<typeof benchToldSchema>>;
