import * as z from "zod/mini";
import { type OriginKind, offOn } from "./originKind";

/** On while it is pushed. */
const schema = z.strictObject({ kind: z.literal("button") });

export const button: OriginKind<typeof schema> = {
  schema,
  name: "Push button",
  begin: () => [{ origin: { kind: "button" }, range: offOn }],
  isSwitch: () => true,
  everyChangeCounts: () => true,
};
