import { encodingSchema, mostDigits } from "@core/encodings";
import { type DeepReadonly, finite, idSchema, labelSchema, wholeBetween } from "@core/schema";
import { wireSchema } from "@core/wire";
import * as z from "zod/mini";
import { boardPowerSchema } from "./power";

const hertzSchema = finite.check(z.gte(1), z.lte(1000));

export const boardSchema = z.strictObject({
  id: idSchema,
  label: labelSchema,
  /** Channels of a pulse board; ids of a bus. Counted from 0. */
  channels: wholeBetween(1, 254),
  /**
   * The frame rate that is asked for, one entry per group of channels: a board with one entry has one rate for all.
   * What is really made can differ (see `SignalMaker.periodUs`).
   */
  frameHz: z.array(hertzSchema).check(z.minLength(1), z.maxLength(64)),
  encoding: encodingSchema,
  /** What the board does by itself when the link has been silent for so long. */
  silence: z.strictObject({ afterMs: wholeBetween(100, 60_000), action: z.enum(["release", "hold"]) }),
  /** The wire to it. Which of them is really opened, each computer says for itself: see `stores/wires.ts`. */
  link: wireSchema,
  /** What has to be known to wire it; missing where nobody has said anything (see `usualBoardPower`). */
  power: z.optional(boardPowerSchema),
});

export type Board = DeepReadonly<z.infer<typeof boardSchema>>;

/** The bytes of the longest line of the link that names all of these channels: `S 65535`, ` ch:number` each, check value and end. A bus has no such lines. */
export function longestFrameLine(board: Board, channels: readonly number[]): number {
  if (board.encoding.kind === "bus") return 0;
  const digits = mostDigits(board.encoding);
  return channels.reduce((sum, channel) => sum + 2 + String(channel).length + digits, "S 65535".length + 6);
}

/** How many neighbouring channels share one frame rate. */
export const groupSizeOf = (board: Board): number => Math.ceil(board.channels / board.frameHz.length);

/** Which group a channel belongs to, counted from 0. */
export const groupOf = (board: Board, channel: number): number =>
  Math.min(Math.floor(channel / groupSizeOf(board)), board.frameHz.length - 1);

/** The frame rate asked for on a channel. */
export const frameHzOf = (board: Board, channel: number): number => board.frameHz[groupOf(board, channel)] as number;
