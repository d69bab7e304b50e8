import { ok, problem } from "@core/result";
import { idSchema, wholeBetween } from "@core/schema";
import * as z from "zod/mini";
import type { StepKind } from "./stepKind";

/** Plays another routine, so many times. */
const schema = z.strictObject({
  kind: z.literal("routine"),
  id: idSchema,
  routineId: idSchema,
  times: wholeBetween(1, 1000),
});

export const playRoutine: StepKind<typeof schema> = {
  schema,
  name: "a routine",
  begin: (id, { routines: [other] }) =>
    other
      ? ok({ kind: "routine", id, routineId: other.id, times: 1 })
      : problem("There is no other routine to play yet."),
  named: ({ routineId }) => ({ routineId }),
  lay: ({ routineId, times }, atMs, ground) => {
    const ends = ground.nest(routineId, times, atMs);
    return ends.ok ? ok({ arriveMs: ends.value, toMs: ends.value }) : ends;
  },
  words: ({ routineId, times }, names) => `${names.routine(routineId)}${times > 1 ? ` × ${times}` : ""}`,
};
