import { isSteadyOrigin, originSchema, partnersKey, saysOnOff } from "@core/origins";
import { atLeastZero, type DeepReadonly, finite, idSchema, labelSchema, rangeSchema } from "@core/schema";
import * as z from "zod/mini";

/** Anything that gives a number. Its live value is not part of the document. */
export const sourceSchema = z.strictObject({
  id: idSchema,
  label: labelSchema,
  range: rangeSchema,
  origin: originSchema,
  isMuted: z.boolean(),
  /** What becomes of what it leads to when it vanishes: it stays, goes to where this value leads after a while, or is released. */
  ifLost: z.discriminatedUnion("kind", [
    z.strictObject({ kind: z.literal("hold") }),
    z.strictObject({ kind: z.literal("value"), value: finite, afterMs: atLeastZero }),
    z.strictObject({ kind: z.literal("release"), afterMs: atLeastZero }),
  ]),
});

export type Source = DeepReadonly<z.infer<typeof sourceSchema>>;

/** Whether a source says on or off, and no amount. */
export const isSwitch = ({ origin }: Source): boolean => saysOnOff(origin);

/** Whether a source goes on giving numbers by itself. Its leads take a joint only where nobody has it, or by their rank. */
export const isSteady = ({ origin }: Source): boolean => isSteadyOrigin(origin);

/** Each source with the other that comes and goes with it, the other axis of a stick; that one has no entry of its own. */
export function withPartners(sources: readonly Source[]): readonly (readonly [Source, Source | null])[] {
  const seen = new Set<string>();
  return sources.flatMap((source) => {
    const key = partnersKey(source.origin);
    if (key === null) return [[source, null] as const];
    if (seen.has(key)) return [];
    seen.add(key);
    return [[source, sources.find((one) => one !== source && partnersKey(one.origin) === key) ?? null] as const];
  });
}
