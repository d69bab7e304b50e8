import * as z from "zod/mini";
import type { OriginKind } from "./originKind";

/** Gives the number of the key that was pressed last, 0 to 9. */
const schema = z.strictObject({ kind: z.literal("keypad") });

export const keypad: OriginKind<typeof schema> = {
  schema,
  name: "Keypad",
  begin: () => [{ origin: { kind: "keypad" }, range: { low: 0, high: 9 } }],
  everyChangeCounts: () => true,
};
