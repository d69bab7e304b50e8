import type { KindSchema, Range, ValueOf } from "@core/schema";

/** What a source begins with. A stick is two sources. */
export interface Begun<Origin> {
  readonly origin: Origin;
  readonly range: Range;
  /** What tells it from the others that begin with it, behind the name. */
  readonly part?: string;
}

/** The moment and the place at which an origin is asked for its number. */
export interface Moment {
  readonly nowMs: number;
  /** Tells apart the noise of two origins. */
  readonly seed: number;
  /** The world behind a simulated sensor, 0…1, moved by hand. */
  readonly world: number;
}

/** All that there is to a kind of origin, but its control and its fields on the screen. */
export interface OriginKind<Schema extends KindSchema = KindSchema, Origin = ValueOf<Schema>> {
  readonly schema: Schema;
  /** What it is called when a source is added. */
  readonly name: string;
  begin(newId: () => string): readonly Begun<Origin>[];
  /** Where the numbers come from, in a few words; its name where this says nothing. */
  words?(origin: Origin): string;
  /** Whether it says on or off, and no amount. */
  isSwitch?(origin: Origin): boolean;
  /** Every change counts, also two within one tick of the bench: a tap is a press and a letting go. */
  everyChangeCounts?(origin: Origin): boolean;
  /** It goes on giving numbers that nobody moves. Its leads take a joint only where nobody has it, or by their rank. */
  isSteady?(origin: Origin): boolean;
  /** The number that it makes by itself at a moment. */
  valueAt?(origin: Origin, range: Range, moment: Moment): number;
  /** What spoke once and is silent for so long has vanished. */
  silentAfterMs?(origin: Origin): number;
  /** By what it is called when it comes from another room or another machine. */
  afarKey?(origin: Origin): string;
  /** What it shares with the sources that come and go with it. */
  partnersKey?(origin: Origin): string;
}

export const thousand: Range = { low: 0, high: 1000 };
export const offOn: Range = { low: 0, high: 1 };
