import { between, positive, type ValueOf } from "@core/schema";
import * as z from "zod/mini";
import { hashed } from "./hashed";
import type { OriginKind } from "./originKind";

/** A generator: goes to and fro by itself. Pure: the same moment gives the same value. */
const schema = z.strictObject({
  kind: z.literal("wave"),
  shape: z.enum(["sine", "triangle", "square", "steps", "noise"]),
  rateHz: positive.check(z.lte(20)),
  /** The share of its range that it uses. */
  depth: between(0, 1),
  phaseDeg: between(0, 360),
});

type Wave = ValueOf<typeof schema>;

const steps = 5;

/** −1…1 over one turn. */
function shapeAt(shape: Wave["shape"], part: number, turns: number, seed: number): number {
  switch (shape) {
    case "sine":
      return Math.sin(2 * Math.PI * part);
    case "triangle":
      return part < 0.25 ? 4 * part : part < 0.75 ? 2 - 4 * part : 4 * part - 4;
    case "square":
      return part < 0.5 ? 1 : -1;
    case "steps":
      return (2 * Math.floor(part * steps)) / (steps - 1) - 1;
    case "noise": {
      // One new goal a turn, gone to softly: smooth, and never the same twice.
      const at = Math.floor(turns);
      const soft = part * part * (3 - 2 * part);
      return 2 * (hashed(at, seed) + soft * (hashed(at + 1, seed) - hashed(at, seed))) - 1;
    }
  }
}

export const wave: OriginKind<typeof schema> = {
  schema,
  name: "Generator",
  begin: () => [
    {
      origin: { kind: "wave", shape: "sine", rateHz: 0.5, depth: 0.5, phaseDeg: 0 },
      range: { low: 0, high: 100 },
    },
  ],
  words: ({ shape, rateHz }) => `${shape}, ${rateHz} Hz`,
  isSteady: () => true,
  valueAt: ({ shape, rateHz, depth, phaseDeg }, { low, high }, { nowMs, seed }) => {
    const turns = (nowMs / 1000) * rateHz + phaseDeg / 360;
    return (low + high) / 2 + shapeAt(shape, turns - Math.floor(turns), turns, seed) * depth * ((high - low) / 2);
  },
};
