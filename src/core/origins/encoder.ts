import { wholeBetween } from "@core/schema";
import * as z from "zod/mini";
import type { OriginKind } from "./originKind";

/** Counts on without an end; its range only says how much of it is drawn. */
const schema = z.strictObject({ kind: z.literal("encoder"), detentsPerTurn: wholeBetween(4, 100) });

export const encoder: OriginKind<typeof schema> = {
  schema,
  name: "Encoder",
  begin: () => [{ origin: { kind: "encoder", detentsPerTurn: 24 }, range: { low: -48, high: 48 } }],
  words: ({ detentsPerTurn }) => `encoder, ${detentsPerTurn} a turn`,
};
