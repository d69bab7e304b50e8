import { textUpTo } from "@core/schema";
import * as z from "zod/mini";
import { type OriginKind, offOn } from "./originKind";

/** A key of the keyboard, by its place (`KeyA`). */
const schema = z.strictObject({ kind: z.literal("key"), code: textUpTo(30) });

export const key: OriginKind<typeof schema> = {
  schema,
  name: "Key of the keyboard",
  begin: () => [{ origin: { kind: "key", code: "" }, range: offOn }],
  words: ({ code }) => (code ? `key ${code.replace(/^Key|^Digit/, "")}` : "no key yet"),
  isSwitch: () => true,
  everyChangeCounts: () => true,
};
