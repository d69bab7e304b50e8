import { cueNameSchema } from "@core/origins";
import { ok } from "@core/result";
import { idSchema } from "@core/schema";
import * as z from "zod/mini";
import type { StepKind } from "./stepKind";

/** Says a cue to other benches and machines at a moment; it takes no time. */
const schema = z.strictObject({ kind: z.literal("cue"), id: idSchema, name: cueNameSchema });

export const cue: StepKind<typeof schema> = {
  schema,
  name: "a cue for others",
  begin: (id) => ok({ kind: "cue", id, name: "go" }),
  lay: (step, atMs, ground) => {
    ground.halt(atMs, step);
    return ok({ arriveMs: atMs, toMs: atMs });
  },
  words: ({ name }) => `Say the cue “${name}”`,
  flag: ({ name }) => `“${name}”`,
};
