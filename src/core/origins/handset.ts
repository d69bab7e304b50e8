import * as z from "zod/mini";
import { afarKeys } from "./afar";
import { type OriginKind, thousand } from "./originKind";

/** What the simulated handset has. */
export const handsetParts = ["across", "up", "first", "second", "battery"] as const;
export type HandsetPart = (typeof handsetParts)[number];

const partWords: Readonly<Record<HandsetPart, string>> = {
  across: "stick, across",
  up: "stick, up",
  first: "first button",
  second: "second button",
  battery: "battery",
};

/** A part of the simulated handset, whose messages go over a simulated radio. */
const schema = z.strictObject({ kind: z.literal("handset"), part: z.enum(handsetParts) });

export const handset: OriginKind<typeof schema> = {
  schema,
  name: "Simulated handset",
  begin: () => [
    { origin: { kind: "handset", part: "across" }, range: thousand, part: "across" },
    { origin: { kind: "handset", part: "up" }, range: thousand, part: "up" },
  ],
  words: ({ part }) => `handset, ${partWords[part]}`,
  isSwitch: ({ part }) => part === "first" || part === "second",
  everyChangeCounts: ({ part }) => part === "first" || part === "second",
  isSteady: ({ part }) => part === "battery",
  silentAfterMs: () => 1000,
  afarKey: ({ part }) => afarKeys.handset(part),
};
