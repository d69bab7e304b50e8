import { type DeepReadonly, idSchema, listUpTo, textUpTo } from "@core/schema";
import * as z from "zod/mini";

/** The lines that only the person knows: how their platform puts a number on a pin. */
const ownLinesSchema = z.strictObject({
  /** At the top of the file: what must be included or imported. */
  top: textUpTo(4000),
  /** Once, before anything is driven. */
  start: textUpTo(4000),
  /** Puts a signal on a channel. */
  set: textUpTo(1000),
  /** Takes the signal off a channel: the servo goes limp. */
  off: textUpTo(1000),
  /** Sends bytes to the smart servos of a bus. */
  send: textUpTo(1000),
});

/** How code is handed off, and what is left out of it. */
export const handOffSchema = z.strictObject({
  language: z.enum(["c", "python"]),
  /** Floating point, or whole numbers for processors without it. */
  numbers: z.enum(["real", "whole"]),
  lines: z.strictObject({ c: ownLinesSchema, python: ownLinesSchema }),
  /** Joints, poses and routines that are not taken along, by id. */
  leftOut: listUpTo(idSchema, 3000),
});

export type OwnLines = DeepReadonly<z.infer<typeof ownLinesSchema>>;
export type HandOff = DeepReadonly<z.infer<typeof handOffSchema>>;

/** Until somebody has written their own: two functions to fill in. */
export const usualHandOff: HandOff = {
  language: "c",
  numbers: "real",
  lines: {
    c: {
      top: "#include <stdint.h>\n/* Yours to write. */\nvoid set_count(uint8_t board, uint8_t channel, int32_t count);\nvoid no_signal(uint8_t board, uint8_t channel);\nvoid send(uint8_t board, const uint8_t *bytes, uint16_t length);",
      start: "",
      set: "set_count({board}, {channel}, {count});",
      off: "no_signal({board}, {channel});",
      send: "send({board}, {bytes}, {length});",
    },
    python: {
      top: "def set_count(board, channel, count):\n    pass  # yours to write\n\n\ndef no_signal(board, channel):\n    pass  # yours to write\n\n\ndef send(board, data):\n    pass  # yours to write\n",
      start: "",
      set: "set_count({board}, {channel}, {count})",
      off: "no_signal({board}, {channel})",
      send: "send({board}, {bytes})",
    },
  },
  leftOut: [],
};
