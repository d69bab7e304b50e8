import * as z from "zod/mini";
import { between, type DeepReadonly, idSchema, labelSchema, wholeBetween } from "./parts";

/** How a board turns a set point into the whole number it can really make. */
export const encodingSchema = z.discriminatedUnion("kind", [
  z.strictObject({
    kind: z.literal("counts"),
    bits: wholeBetween(4, 24),
    /** A duty of 1 is `2^n` counts on some boards and `2^n − 1` on others. */
    fullScale: z.enum(["2^n", "2^n-1"]),
    rounding: z.enum(["round", "truncate"]),
  }),
  /** A bus adapter hands whole tick positions to smart servos; it makes no pulses. */
  z.strictObject({ kind: z.literal("bus"), highestTick: wholeBetween(1, 65_535) }),
]);

export const boardSchema = z.strictObject({
  id: idSchema,
  label: labelSchema,
  /** Channels of a pulse board; ids of a bus. Counted from 0. */
  channels: wholeBetween(1, 254),
  /** How often every channel's signal is repeated. */
  frameHz: between(1, 1000),
  encoding: encodingSchema,
  /** What the board does by itself when the link has been silent for so long. */
  silence: z.strictObject({ afterMs: wholeBetween(100, 60_000), action: z.enum(["release", "hold"]) }),
  link: z.strictObject({ kind: z.literal("simulated") }),
});

export type Board = DeepReadonly<z.infer<typeof boardSchema>>;
export type Encoding = Board["encoding"];
