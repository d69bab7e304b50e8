import * as z from "zod/mini";
import { afarKeys, cueNameSchema } from "./afar";
import { type OriginKind, offOn } from "./originKind";

/** On for a moment when another bench, or this one, says a cue by that name. */
const schema = z.strictObject({ kind: z.literal("cue"), name: cueNameSchema });

export const cue: OriginKind<typeof schema> = {
  schema,
  name: "Cue from another bench",
  begin: () => [{ origin: { kind: "cue", name: "go" }, range: offOn }],
  words: ({ name }) => `cue “${name}”`,
  isSwitch: () => true,
  everyChangeCounts: () => true,
  afarKey: ({ name }) => afarKeys.cue(name),
};
