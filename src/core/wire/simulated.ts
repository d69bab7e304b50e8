import * as z from "zod/mini";
import type { WireKind } from "./wireKind";

const schema = z.strictObject({ kind: z.literal("simulated") });

/** No wire at all: the far end is simulated, within the bench. */
export const simulated: WireKind<typeof schema> = {
  schema,
  name: "Simulated",
  begin: () => ({ kind: "simulated" }),
  words: () => "simulated",
};
