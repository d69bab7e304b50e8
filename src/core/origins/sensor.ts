import { between, type ValueOf } from "@core/schema";
import * as z from "zod/mini";
import { hashed } from "./hashed";
import { type OriginKind, thousand } from "./originKind";

/** A simulated sensor: its noise and drift as shares of its range; the world behind it is moved by hand. */
const schema = z.strictObject({
  kind: z.literal("sensor"),
  sense: z.enum(["light", "temperature", "flex", "distance"]),
  noise: between(0, 0.5),
  driftPerMin: between(-1, 1),
});

/** Sensors are seldom straight: light and distance crowd at one end, flex sags. */
function senseOf(sense: ValueOf<typeof schema>["sense"], world: number): number {
  switch (sense) {
    case "light":
      return Math.sqrt(world);
    case "temperature":
      return world;
    case "flex":
      return 0.15 + 0.7 * world * world;
    case "distance":
      return 0.08 / (0.08 + world);
  }
}

export const sensor: OriginKind<typeof schema> = {
  schema,
  name: "Simulated sensor",
  begin: () => [{ origin: { kind: "sensor", sense: "light", noise: 0.02, driftPerMin: 0 }, range: thousand }],
  words: ({ sense }) => `simulated ${sense}`,
  isSteady: () => true,
  /** The world seen through the sensor's own curve, its drift and its noise; whole numbers of its converter, within its range. */
  valueAt: ({ sense, noise, driftPerMin }, range, { nowMs, seed, world }) => {
    const drifted = senseOf(sense, world) + (driftPerMin * nowMs) / 60_000;
    const bell = hashed(nowMs, seed) + hashed(nowMs, seed + 1) + hashed(nowMs, seed + 2) - 1.5;
    const share = Math.min(Math.max(drifted + bell * noise, 0), 1);
    return Math.round(range.low + share * (range.high - range.low));
  },
};
