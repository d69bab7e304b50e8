import type { KindSchema, ValueOf } from "@core/schema";
import * as z from "zod/mini";

/** How fast a serial port runs, in bits per second. */
export const lowestBitsPerS = 300;
export const highestBitsPerS = 12_000_000;

/**
 * Which line of the port turns a bus adapter to sending, and its level while it sends; missing for the many that turn round by themselves.
 * “Low” is what the line is otherwise in “high”.
 */
export const directionSchema = z.optional(z.enum(["rts high", "rts low", "dtr high", "dtr low"]));
export type Direction = NonNullable<z.infer<typeof directionSchema>>;

/** The levels of the lines of a port while it sends, or while it listens. */
export function linesOf(
  direction: Direction,
  isSending: boolean,
): { readonly rts: boolean } | { readonly dtr: boolean } {
  const level = direction.endsWith("high") === isSending;
  return direction.startsWith("rts") ? { rts: level } : { dtr: level };
}

/** All that there is to a kind of wire, but the way to open it (the worker's) and its fields on the screen. */
export interface WireKind<Schema extends KindSchema = KindSchema, Wire = ValueOf<Schema>> {
  readonly schema: Schema;
  readonly name: string;
  begin(): Wire;
  /** Which one it is, for a sentence: “the port ttyUSB0”. */
  words(wire: Wire): string;
}
