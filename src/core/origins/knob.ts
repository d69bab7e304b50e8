import * as z from "zod/mini";
import { type OriginKind, thousand } from "./originKind";

/** Turned from one end to the other. */
const schema = z.strictObject({ kind: z.literal("knob") });

export const knob: OriginKind<typeof schema> = {
  schema,
  name: "Knob",
  begin: () => [{ origin: { kind: "knob" }, range: thousand }],
};
