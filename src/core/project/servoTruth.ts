import { atLeastZero, between, type DeepReadonly, finite, idSchema, labelSchema, positive } from "@core/schema";
import * as z from "zod/mini";

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
    perDeg: finite.check(z.refine((value) => value !== 0, { error: "must not be zero" })),
    /** How much the curve bends: 0 is straight; 0.1 is 10 % more travel per µs at one end, less at the other. */
    bend: between(-0.3, 0.3),
    /** Where the servo itself stops turning. */
    stopLowDeg: finite,
    stopHighDeg: finite,
    deadband: atLeastZero,
    speedDegPerS: positive,
    noiseDeg: atLeastZero,
    startDeg: finite,
    /** Play in the gears: how far the horn lags behind a drive that turns back. */
    backlashDeg: atLeastZero,
    /** How far it must be off before it starts to turn: dry grease, a worn track. */
    stictionDeg: z.optional(atLeastZero),
    /** The share of its torque that the arm it carries takes while it lies level, at `midDeg`: it sags, rises more slowly and sinks faster. */
    loadShare: z.optional(between(0, 0.9)),
    /** How fast its horn slips on the shaft while it is pressed against a stop. */
    slipDegPerS: z.optional(atLeastZero),
    /** Without supply it is limp, whatever its signal. */
    hasSupply: z.optional(z.boolean()),
    /** What its sensor reads: straight over the horn's angle, with noise; null for a servo that cannot be read. */
    feedback: z.nullable(
      z.strictObject({ atZeroDeg: finite, perDeg: finite.check(z.refine((value) => value !== 0)), noise: atLeastZero }),
    ),
    /** What it draws at rest, while it turns, and against a stop. */
    idleMa: atLeastZero,
    movingMa: atLeastZero,
    stallMa: atLeastZero,
  }),
  z.strictObject({
    kind: z.literal("continuous"),
    cardId: idSchema,
    neutral: finite,
    /** Half of the width around neutral in which it rests. */
    deadband: atLeastZero,
    /** Set points from neutral to full speed. */
    span: positive,
    fullSpeedDegPerS: positive,
    noiseDeg: atLeastZero,
    hasSupply: z.optional(z.boolean()),
  }),
]);

/**
 * A simulated smart servo that lies beside a bus until it is plugged in. Joints on a bus have theirs without an entry; one with an entry is
 * the servo of that card, once a person has made a joint of it.
 */
export const simulatedDeviceSchema = z.strictObject({
  id: idSchema,
  label: labelSchema,
  boardId: idSchema,
  layoutId: idSchema,
  cardId: z.nullable(idSchema),
});

export type SimulatedDevice = DeepReadonly<z.infer<typeof simulatedDeviceSchema>>;
export type ServoTruth = DeepReadonly<z.infer<typeof servoTruthSchema>>;
export type PositionalTruth = Extract<ServoTruth, { kind: "positional" }>;
