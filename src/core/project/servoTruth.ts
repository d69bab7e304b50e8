import { z } from "zod";
import { type DeepReadonly, finite, idSchema } from "./parts";

/**
 * The hidden truth of one simulated servo: what a person would have to find out by calibrating it.
 * Set points are in the unit of the servo's card; angles are the servo's own, as a protractor would read them.
 */
export const servoTruthSchema = z.discriminatedUnion("kind", [
  z.strictObject({
    kind: z.literal("positional"),
    cardId: idSchema,
    /** The set point at which the horn stands at `midDeg`. */
    centre: finite,
    midDeg: finite,
    /** Set points per degree around the centre; negative when the servo turns the other way. */
    perDeg: finite.refine((value) => value !== 0, { message: "must not be zero" }),
    /** How much the curve bends: 0 is straight; 0.1 is 10 % more travel per µs at one end, less at the other. */
    bend: finite.min(-0.3).max(0.3),
    /** Where the servo itself stops turning. */
    stopLowDeg: finite,
    stopHighDeg: finite,
    deadband: finite.min(0),
    speedDegPerS: finite.positive(),
    noiseDeg: finite.min(0),
    startDeg: finite,
  }),
  z.strictObject({
    kind: z.literal("continuous"),
    cardId: idSchema,
    neutral: finite,
    /** Half of the width around neutral in which it rests. */
    deadband: finite.min(0),
    /** Set points from neutral to full speed. */
    span: finite.positive(),
    fullSpeedDegPerS: finite.positive(),
    noiseDeg: finite.min(0),
  }),
]);

export type ServoTruth = DeepReadonly<z.infer<typeof servoTruthSchema>>;
export type PositionalTruth = Extract<ServoTruth, { kind: "positional" }>;
