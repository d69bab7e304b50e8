import { wholeBetween } from "@core/schema";
import * as z from "zod/mini";
import { afarKeys } from "./afar";
import type { OriginKind } from "./originKind";

/** A slot of a universe that a lighting desk sends (ANSI E1.31); a fine one is that slot and the next, the first being the more significant. */
const schema = z.strictObject({
  kind: z.literal("sacn"),
  universe: wholeBetween(1, 63_999),
  slot: wholeBetween(1, 512),
  isFine: z.boolean(),
});

export const sacn: OriginKind<typeof schema> = {
  schema,
  name: "Lighting desk (sACN)",
  begin: () => [{ origin: { kind: "sacn", universe: 1, slot: 1, isFine: false }, range: { low: 0, high: 255 } }],
  words: ({ universe, slot, isFine }) => `universe ${universe}, slot ${slot}${isFine ? ` and ${slot + 1}` : ""}`,
  afarKey: ({ universe, slot, isFine }) => afarKeys.sacn(universe, slot, isFine),
};
