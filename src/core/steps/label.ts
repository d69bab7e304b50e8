import { ok } from "@core/result";
import { idSchema, labelSchema } from "@core/schema";
import * as z from "zod/mini";
import type { StepKind } from "./stepKind";

/** Words at a moment, for whoever reads the score. */
const schema = z.strictObject({ kind: z.literal("label"), id: idSchema, text: labelSchema });

export const label: StepKind<typeof schema> = {
  schema,
  name: "a label",
  begin: (id) => ok({ kind: "label", id, text: "Mark" }),
  lay: (_, atMs) => ok({ arriveMs: atMs, toMs: atMs }),
  words: ({ text }) => text,
  flag: ({ text }) => text,
};
