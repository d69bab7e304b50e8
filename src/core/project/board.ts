import { z } from "zod";
import { type DeepReadonly, finite, idSchema, labelSchema } from "./parts";

/** How a board turns a set point into the whole number it can really make. */
export const encodingSchema = z.discriminatedUnion("kind", [
  z.strictObject({
    kind: z.literal("counts"),
    bits: z.int().min(4).max(24),
    /** A duty of 1 is `2^n` counts on some boards and `2^n − 1` on others. */
    fullScale: z.enum(["2^n", "2^n-1"]),
    rounding: z.enum(["round", "truncate"]),
  }),
  /** A bus adapter hands whole tick positions to smart servos; it makes no pulses. */
  z.strictObject({ kind: z.literal("bus"), highestTick: z.int().min(1).max(65_535) }),
]);

export const boardSchema = z.strictObject({
  id: idSchema,
  label: labelSchema,
  /** Channels of a pulse board; ids of a bus. Counted from 0. */
  channels: z.int().min(1).max(254),
  /** How often every channel's signal is repeated. */
  frameHz: finite.min(1).max(1000),
  encoding: encodingSchema,
  /** What the board does by itself when the link has been silent for so long. */
  silence: z.strictObject({ afterMs: z.int().min(100).max(60_000), action: z.enum(["release", "hold"]) }),
  link: z.strictObject({ kind: z.literal("simulated") }),
});

export type Board = DeepReadonly<z.infer<typeof boardSchema>>;
export type Encoding = Board["encoding"];
