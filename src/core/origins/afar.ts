import { between, textUpTo } from "@core/schema";
import * as z from "zod/mini";

/**
 * What comes from another machine is called by one key each: the door it comes through, and its name there. Whoever hears something makes the
 * key with these, and so do the origins that wait for it.
 */
export const afarKeys = {
  mqtt: (topic: string) => `mqtt:${topic}`,
  osc: (address: string, argument: number) => `osc:${address}#${argument}`,
  sacn: (universe: number, slot: number, isFine: boolean) => `sacn:${universe}/${slot}${isFine ? "/16" : ""}`,
  /** The handset sends messages as any other sender does. */
  handset: (part: string) => `mqtt:handset/${part}`,
  cue: (name: string) => `cue:${name}`,
} as const;

/** What a cue is called: one level of a topic. */
export const cueNameSchema = textUpTo(40).check(z.regex(/^[^+#/\s]+$/));

/** How what another machine says is taken. */
export const taken = {
  /** It is moved by somebody's hand, and takes a joint by touch; else it goes on by itself, as a sensor does. */
  isHand: z.boolean(),
  /** After so long a silence it has vanished; null for one that speaks only when it has something to say. */
  silentAfterMs: z.nullable(between(100, 3_600_000)),
};

export const silence = ({ silentAfterMs }: { readonly silentAfterMs: number | null }): number =>
  silentAfterMs ?? Number.POSITIVE_INFINITY;
