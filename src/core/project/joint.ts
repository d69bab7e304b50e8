import * as z from "zod/mini";
import { type DeepReadonly, finite, idSchema, labelSchema, positive, rangeSchema, wholeBetween } from "./parts";

const directionSchema = z.union([z.literal(1), z.literal(-1)]);

/**
 * What is asked of a joint is its **target**: an angle in degrees, or a spin of −1…+1 for a continuous servo.
 * For an angle: `servoDeg = zeroDeg + direction × targetDeg`.
 */
export const axisSchema = z.discriminatedUnion("kind", [
  z
    .strictObject({
      kind: z.literal("angle"),
      direction: directionSchema,
      /** The servo's own angle at which this joint reads 0°. */
      zeroDeg: finite,
      travel: rangeSchema,
      homeDeg: finite,
      /** No step of the gate is faster than this; null leaves it to the servo. */
      speedLimitDegPerS: z.nullable(positive),
    })
    .check(
      z.refine((axis) => axis.homeDeg >= axis.travel.low && axis.homeDeg <= axis.travel.high, {
        error: "home lies outside the travel limits",
        path: ["homeDeg"],
      }),
    ),
  z.strictObject({
    kind: z.literal("spin"),
    direction: directionSchema,
    /** The largest share of full speed that may be asked for, either way. */
    limit: positive.check(z.lte(1)),
    /** How fast the spin may change, in full speeds per second; null leaves it to the servo. */
    rampPerS: z.nullable(positive),
    /** At a spin of exactly 0: the neutral pulse, or no signal at all, for a servo that creeps at neutral. */
    atRest: z.enum(["neutral", "release"]),
  }),
]);

export const jointSchema = z.strictObject({
  id: idSchema,
  label: labelSchema,
  rigId: idSchema,
  cardId: idSchema,
  boardId: idSchema,
  channel: wholeBetween(0, 253),
  axis: axisSchema,
});

export const rigSchema = z.strictObject({ id: idSchema, label: labelSchema });

export type Axis = DeepReadonly<z.infer<typeof axisSchema>>;
export type AngleAxis = Extract<Axis, { kind: "angle" }>;
export type Joint = DeepReadonly<z.infer<typeof jointSchema>>;
export type Rig = DeepReadonly<z.infer<typeof rigSchema>>;
