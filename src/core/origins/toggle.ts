import * as z from "zod/mini";
import { type OriginKind, offOn } from "./originKind";

/** Stays on or off. */
const schema = z.strictObject({ kind: z.literal("toggle") });

export const toggle: OriginKind<typeof schema> = {
  schema,
  name: "Toggle switch",
  begin: () => [{ origin: { kind: "toggle" }, range: offOn }],
  isSwitch: () => true,
  everyChangeCounts: () => true,
};
