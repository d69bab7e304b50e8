import { textUpTo, wholeBetween } from "@core/schema";
import * as z from "zod/mini";
import { directionSchema, highestBitsPerS, lowestBitsPerS, type WireKind } from "./wireKind";

/** A serial port of the computer that serves Vantel, by its path as the system has it. */
const schema = z.strictObject({
  kind: z.literal("serverPort"),
  path: textUpTo(200).check(z.minLength(1), z.regex(/^[\w./:\\-]+$/)),
  bitsPerS: wholeBetween(lowestBitsPerS, highestBitsPerS),
  direction: directionSchema,
});

export const serverPort: WireKind<typeof schema> = {
  schema,
  name: "A serial port of the computer that serves Vantel",
  begin: () => ({ kind: "serverPort", path: "/dev/ttyUSB0", bitsPerS: 115_200 }),
  words: ({ path }) => `the port ${path}`,
};
