import { textUpTo, wholeBetween } from "@core/schema";
import * as z from "zod/mini";
import type { WireKind } from "./wireKind";

/** A TCP address, opened by the computer that serves Vantel. */
const schema = z.strictObject({
  kind: z.literal("tcp"),
  host: textUpTo(200).check(z.minLength(1), z.regex(/^[A-Za-z0-9_.:-]+$/)),
  port: wholeBetween(1, 65_535),
});

export const tcp: WireKind<typeof schema> = {
  schema,
  name: "A TCP address",
  begin: () => ({ kind: "tcp", host: "127.0.0.1", port: 4781 }),
  words: ({ host, port }) => `${host}:${port}`,
};
