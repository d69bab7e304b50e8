import { textUpTo, wholeBetween } from "@core/schema";
import * as z from "zod/mini";
import { serverPort } from "./serverPort";
import { tcp } from "./tcp";
import { highestBitsPerS, lowestBitsPerS } from "./wireKind";

/**
 * What a page and the server say to one another over the socket of one wire, besides the bytes themselves, which go as binary messages. The page says
 * something at least every half second; the server closes the wire of one that was silent for two.
 */
const bytes = textUpTo(2000).check(z.regex(/^([0-9a-f]{2})*$/));

export const serverAskSchema = z.discriminatedUnion("kind", [
  z.strictObject({
    kind: z.literal("open"),
    wire: z.discriminatedUnion("kind", [serverPort.schema, tcp.schema]),
    /** What the server says to the board by itself before it closes the wire: a release. In hexadecimal digits. */
    lastWords: bytes,
  }),
  z.strictObject({ kind: z.literal("lastWords"), lastWords: bytes }),
  z.strictObject({ kind: z.literal("speed"), bitsPerS: wholeBetween(lowestBitsPerS, highestBitsPerS) }),
  z.strictObject({ kind: z.literal("here") }),
]);

export const serverToldSchema = z.discriminatedUnion("kind", [
  z.strictObject({ kind: z.literal("open") }),
  /** It could not be opened, or is not open any more. */
  z.strictObject({ kind: z.literal("lost"), sentence: textUpTo(500) }),
]);

export type ServerAsk = z.infer<typeof serverAskSchema>;
export type ServerTold = z.infer<typeof serverToldSchema>;
