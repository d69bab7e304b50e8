import type { KindSchema, ValueOf } from "@core/schema";

/** How fast a serial port runs, in bits per second. */
export const lowestBitsPerS = 300;
export const highestBitsPerS = 12_000_000;

/** All that there is to a kind of wire, but the way to open it (the worker's) and its fields on the screen. */
export interface WireKind<Schema extends KindSchema = KindSchema, Wire = ValueOf<Schema>> {
  readonly schema: Schema;
  readonly name: string;
  begin(): Wire;
  /** Which one it is, for a sentence: “the port ttyUSB0”. */
  words(wire: Wire): string;
}
