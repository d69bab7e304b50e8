import { between, type DeepReadonly, idSchema, labelSchema, wholeBetween } from "@core/schema";
import * as z from "zod/mini";

/** The longest take, in frames: ten minutes at 50 Hz, with room to spare. */
export const longestTakeFrames = 200_000;

/**
 * What the document knows of a recording of live movement. Its samples are many and never change, so they lie beside the document, under the
 * same id (see `TakeData`): cleaning a take up makes another.
 */
export const takeSchema = z.strictObject({
  id: idSchema,
  name: labelSchema,
  /** ISO 8601 instant. */
  madeAt: z.iso.datetime(),
  /** From one sample to the next, in ms. */
  frameMs: between(1, 1000),
  frames: wholeBetween(1, longestTakeFrames),
  jointIds: z.array(idSchema).check(z.minLength(1), z.maxLength(200)),
});

export type Take = DeepReadonly<z.infer<typeof takeSchema>>;

/** How long a take is, in ms: from its first sample to its last. */
export const lengthOfTake = (take: Pick<Take, "frames" | "frameMs">): number =>
  Math.max(1, take.frames - 1) * take.frameMs;

/** The samples of a take: for each of its joints one target a frame (degrees, or spin). They never change once they are made. */
export interface TakeData {
  readonly id: string;
  readonly channels: Readonly<Record<string, Float32Array>>;
}

/** The samples that are at hand, by the id of their take. */
export type TakeLibrary = ReadonlyMap<string, TakeData>;
