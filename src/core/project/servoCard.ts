import { z } from "zod";
import { type DeepReadonly, finite, idSchema, labelSchema, rangeSchema } from "./parts";

/**
 * A servo is told one number, its **set point**: a pulse in µs for a hobby servo, a tick position for a smart one.
 * Every field below that is a set point is in the card's own unit (see `setPointUnit`).
 */
const measuredPointSchema = z.strictObject({ angleDeg: finite, setPoint: finite });

const lineCalibrationSchema = z.strictObject({
  kind: z.literal("line"),
  id: idSchema,
  /** ISO 8601 instant. */
  madeAt: z.iso.datetime(),
  note: z.string().max(2000),
  /** What was seen: servo angle in degrees against the set point that was sent. */
  points: z.array(measuredPointSchema).min(2).max(200),
});

const spinCalibrationSchema = z.strictObject({
  kind: z.literal("spin"),
  id: idSchema,
  madeAt: z.iso.datetime(),
  note: z.string().max(2000),
  /** Set points of full speed backward, of rest, and of full speed forward. */
  back: finite,
  neutral: finite,
  forward: finite,
});

export const calibrationSchema = z.discriminatedUnion("kind", [lineCalibrationSchema, spinCalibrationSchema]);

const common = {
  id: idSchema,
  label: labelSchema,
  /** The hard window: no set point outside it ever leaves the gate. */
  window: rangeSchema,
  /** A change of set point smaller than this does not move the servo. */
  deadband: finite.min(0),
  /** Frame rates the servo accepts, in Hz. */
  frameHz: rangeSchema,
  rating: z.strictObject({
    secPer60Deg: finite.positive(),
    atVolts: finite.positive(),
    torqueKgCm: finite.min(0),
    stallMa: finite.min(0),
  }),
  wires: z.strictObject({ ground: z.string().max(40), supply: z.string().max(40), signal: z.string().max(40) }),
  splineTeeth: z.int().min(1).max(100),
  notes: z.string().max(4000),
  /** Oldest first; the last one is in force, the others are kept. */
  calibrations: z.array(calibrationSchema).max(500),
};

const travelling = {
  travelDeg: finite.positive().max(3600),
  /** The data sheet's set points at 0° and at the end of the travel: what holds until a calibration is made. */
  nominal: rangeSchema,
};

export const servoCardSchema = z.discriminatedUnion("kind", [
  z.strictObject({ kind: z.literal("positional"), ...common, ...travelling }),
  z.strictObject({ kind: z.literal("smart"), ...common, ...travelling }),
  z.strictObject({
    kind: z.literal("continuous"),
    ...common,
    nominal: z.strictObject({ back: finite, neutral: finite, forward: finite }),
  }),
]);

/** The record of one physical servo. Two servos of one model have two cards. */
export type ServoCard = DeepReadonly<z.infer<typeof servoCardSchema>>;
export type Calibration = DeepReadonly<z.infer<typeof calibrationSchema>>;
export type SetPointUnit = "µs" | "ticks";

export const setPointUnit = (card: ServoCard): SetPointUnit => (card.kind === "smart" ? "ticks" : "µs");
