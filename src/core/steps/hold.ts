import { ok } from "@core/result";
import { idSchema } from "@core/schema";
import * as z from "zod/mini";
import { lengthMs, longestStepMs, secondsOf } from "./lengths";
import type { StepKind } from "./stepKind";

/** Stands where it is for a while. */
const schema = z.strictObject({ kind: z.literal("hold"), id: idSchema, holdMs: lengthMs });

export const hold: StepKind<typeof schema> = {
  schema,
  name: "a hold",
  begin: (id) => ok({ kind: "hold", id, holdMs: 1000 }),
  lay: ({ holdMs }, atMs) => ok({ arriveMs: atMs, toMs: atMs + holdMs }),
  words: () => "Hold",
  lengthWords: ({ holdMs }) => secondsOf(holdMs),
  lengthened: (step, byMs) => ({ ...step, holdMs: Math.max(0, step.holdMs + byMs) }),
  stretched: (step, { restMs }) => (restMs > longestStepMs ? null : { ...step, holdMs: restMs }),
};
