import type { KindSchema, ValueOf } from "@core/schema";
import * as z from "zod/mini";
import type { SignalMaker } from "./maker";

/** What is asked of an encoding, and its frame as it really is. */
export interface Wanted {
  readonly askedHz: number;
  readonly periodUs: number;
  readonly setPoint: number;
}

/** All that there is to a way of making signals, but its fields on the screen. */
export interface EncodingKind<Schema extends KindSchema = KindSchema, Encoding = ValueOf<Schema>> {
  readonly schema: Schema;
  readonly name: string;
  begin(): Encoding;
  /** How it makes them at a wished frame rate, in Hz. */
  maker(encoding: Encoding, frameHz: number): SignalMaker;
  /** The most digits that a number for such a board has. */
  mostDigits(encoding: Encoding): number;
  /** From the set point to the exact number, line by line, as a person would work it out. */
  working(encoding: Encoding, asked: Wanted): readonly string[];
  /** Why it cannot make this frame rate, with what would do. */
  problems?(encoding: Encoding, askedHz: number): readonly string[];
}

export const roundingSchema = z.enum(["round", "truncate"]);
