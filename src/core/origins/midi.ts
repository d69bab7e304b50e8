import { wholeBetween } from "@core/schema";
import * as z from "zod/mini";
import type { OriginKind } from "./originKind";

/** A controller or a note of a MIDI device. */
const schema = z.strictObject({
  kind: z.literal("midi"),
  message: z.enum(["controller", "note"]),
  channel: wholeBetween(1, 16),
  number: wholeBetween(0, 127),
});

export const midi: OriginKind<typeof schema> = {
  schema,
  name: "MIDI controller",
  begin: () => [
    { origin: { kind: "midi", message: "controller", channel: 1, number: 1 }, range: { low: 0, high: 127 } },
  ],
  words: ({ message, number, channel }) => `${message} ${number}, channel ${channel}`,
  isSwitch: ({ message }) => message === "note",
  everyChangeCounts: ({ message }) => message === "note",
};
