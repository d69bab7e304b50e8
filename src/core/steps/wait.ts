import { ok, problem } from "@core/result";
import { finite, idSchema } from "@core/schema";
import * as z from "zod/mini";
import { lengthMs, secondsOf } from "./lengths";
import type { StepKind } from "./stepKind";

/** Time stands still until a source is past a level: a press, a sensor. It takes no time of the score. */
const schema = z.strictObject({
  kind: z.literal("wait"),
  id: idSchema,
  sourceId: idSchema,
  side: z.enum(["above", "below"]),
  level: finite,
  /** So long it waits at most; null for as long as it takes. */
  timeoutMs: z.nullable(lengthMs),
  ifTimeout: z.enum(["goOn", "stop"]),
});

export const wait: StepKind<typeof schema> = {
  schema,
  name: "a wait",
  begin: (id, { sources: [source] }) =>
    source
      ? ok({
          kind: "wait",
          id,
          sourceId: source.id,
          side: "above",
          level: (source.range.low + source.range.high) / 2,
          timeoutMs: 10_000,
          ifTimeout: "goOn",
        })
      : problem("There is no source to wait for yet. Add one at the station Inputs."),
  named: ({ sourceId }) => ({ sourceId }),
  lay: (step, atMs, ground) => {
    ground.halt(atMs, step);
    return ok({ arriveMs: atMs, toMs: atMs });
  },
  words: ({ sourceId }, names) => `Wait for ${names.source(sourceId)}`,
  lengthWords: ({ timeoutMs }) => (timeoutMs === null ? "" : `≤ ${secondsOf(timeoutMs)}`),
  flag: () => "waits",
};
