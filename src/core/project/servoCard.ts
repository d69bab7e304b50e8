import {
  atLeastZero,
  type DeepReadonly,
  finite,
  idSchema,
  labelSchema,
  listUpTo,
  positive,
  rangeSchema,
  textUpTo,
  wholeBetween,
} from "@core/schema";
import * as z from "zod/mini";
import { cardPowerSchema } from "./power";

/**
 * A servo is told one number, its **set point**: a pulse in µs for a hobby servo, a tick position for a smart one.
 * Every field below that is a set point is in the card's own unit (see `setPointUnit`).
 */
const measuredPointSchema = z.strictObject({ angleDeg: finite, setPoint: finite });

const measuredCalibrationSchema = z.strictObject({
  /** The curve that is laid through the points. */
  kind: z.enum(["line", "piecewise"]),
  id: idSchema,
  /** ISO 8601 instant. */
  madeAt: z.iso.datetime(),
  note: textUpTo(2000),
  /** What was seen: servo angle in degrees against the set point that was sent. */
  points: z.array(measuredPointSchema).check(z.minLength(2), z.maxLength(200)),
});

const spinCalibrationSchema = z.strictObject({
  kind: z.literal("spin"),
  id: idSchema,
  madeAt: z.iso.datetime(),
  note: textUpTo(2000),
  /** Set points of full speed backward, of rest, and of full speed forward. */
  back: finite,
  neutral: finite,
  forward: finite,
  /** The set points between which it rests, as found on the bench; null where nobody has looked. */
  rest: z.nullable(rangeSchema),
  /** How far either edge of its rest may be off. */
  restPlusMinus: z.optional(atLeastZero),
  /** How fast it really turns at some set points; negative is back. Empty where nobody has counted turns. */
  speeds: listUpTo(z.strictObject({ setPoint: finite, degPerS: finite, plusMinus: z.optional(atLeastZero) }), 100),
  /** How fast it creeps at neutral; null where nobody has looked. */
  creepDegPerS: z.nullable(finite),
});

export const calibrationSchema = z.discriminatedUnion("kind", [measuredCalibrationSchema, spinCalibrationSchema]);

/**
 * One reading of a checking run. The set point is kept and not the angle that was asked for, so that any curve, old or new, can be
 * held against the same readings.
 */
const checkReadingSchema = z.strictObject({
  setPoint: finite,
  /** From which side the horn came to it: from smaller angles or from larger. */
  cameFrom: z.enum(["below", "above"]),
  seenDeg: finite,
});

const checkSchema = z.strictObject({
  id: idSchema,
  madeAt: z.iso.datetime(),
  /** The calibration in force when it was made; null for the data sheet. */
  calibrationId: z.nullable(idSchema),
  readings: z.array(checkReadingSchema).check(z.minLength(1), z.maxLength(100)),
});

const currentMaSchema = z.nullable(atLeastZero);

const common = {
  id: idSchema,
  label: labelSchema,
  /** The hard window: no set point outside it ever leaves the gate. */
  window: rangeSchema,
  /** The last set points that still moved the horn, either way, as found on the bench; null where nobody has looked. */
  endStops: z.strictObject({
    low: z.nullable(finite),
    high: z.nullable(finite),
    /** How far either may be off, as the search for it left it; missing where a person typed them. */
    plusMinus: z.optional(z.strictObject({ low: atLeastZero, high: atLeastZero })),
  }),
  /** A change of set point smaller than this does not move the servo. */
  deadband: atLeastZero,
  /** Frame rates the servo accepts, in Hz. */
  frameHz: rangeSchema,
  rating: z.strictObject({
    secPer60Deg: positive,
    /** How fast it gathers speed; null where nobody knows. */
    accelDegPerS2: z.nullable(positive),
    atVolts: positive,
    torqueKgCm: atLeastZero,
    stallMa: atLeastZero,
    /** The supply it may be given, in volts; null where the sheet does not say. */
    supplyVolts: z.nullable(rangeSchema),
  }),
  /** What it was seen to draw, in mA; null where nobody has measured. */
  currents: z.strictObject({
    idleMa: currentMaSchema,
    movingMa: currentMaSchema,
    highestMa: currentMaSchema,
    /** When it was last measured; missing where nobody has, or before that was kept. */
    measuredAt: z.optional(z.iso.datetime()),
  }),
  /** What a person decided about it; the rest of its state follows from its calibrations (see `cardState`). */
  standing: z.enum(["inUse", "checkDue", "retired"]),
  /** After so many days without a check it is due; null for never. */
  checkEveryDays: z.nullable(wholeBetween(1, 3650)),
  wires: z.strictObject({ ground: textUpTo(40), supply: textUpTo(40), signal: textUpTo(40) }),
  /** What has to be known to wire it; missing where nobody has said anything (see `usualCardPower`). */
  power: z.optional(cardPowerSchema),
  splineTeeth: wholeBetween(1, 100),
  notes: textUpTo(4000),
  /** Oldest first; the last one is in force, the others are kept. */
  calibrations: listUpTo(calibrationSchema, 500),
  /** Oldest first. */
  checks: listUpTo(checkSchema, 500),
};

/**
 * How the servo can be read: a register of a smart one (ticks), or an analogue wire through a converter (counts). `points` say what is
 * read at which angle; without any, a register is believed and a wire is not.
 */
const feedbackSchema = z.strictObject({
  unit: z.enum(["ticks", "counts"]),
  points: listUpTo(z.strictObject({ reading: finite, angleDeg: finite }), 500),
});

const travelling = {
  feedback: z.nullable(feedbackSchema),
  travelDeg: positive.check(z.lte(3600)),
  /** The data sheet's set points at 0° and at the end of the travel: what holds until a calibration is made. */
  nominal: rangeSchema,
};

/** Beyond these a smart servo is spoken of; null where nobody wants to hear of it. */
const alarmsSchema = z.strictObject({
  highestC: z.nullable(finite),
  lowestV: z.nullable(finite),
  highestV: z.nullable(finite),
  /** A share of its full load, in per cent, whichever way it pushes. */
  highestLoad: z.nullable(positive),
});

export const servoCardSchema = z.discriminatedUnion("kind", [
  z.strictObject({ kind: z.literal("positional"), ...common, ...travelling }),
  z.strictObject({ kind: z.literal("smart"), ...common, ...travelling, layoutId: idSchema, alarms: alarmsSchema }),
  z.strictObject({
    kind: z.literal("continuous"),
    ...common,
    nominal: z.strictObject({ back: finite, neutral: finite, forward: finite }),
  }),
]);

/** The record of one physical servo. Two servos of one model have two cards. */
export type ServoCard = DeepReadonly<z.infer<typeof servoCardSchema>>;
export type Calibration = DeepReadonly<z.infer<typeof calibrationSchema>>;
export type SpinCalibration = Extract<Calibration, { kind: "spin" }>;
export type MeasuredCalibration = Exclude<Calibration, SpinCalibration>;
export type SmartCard = Extract<ServoCard, { kind: "smart" }>;
export type Alarms = SmartCard["alarms"];
export type Check = DeepReadonly<z.infer<typeof checkSchema>>;
export type CheckReading = Check["readings"][number];
export type Feedback = DeepReadonly<z.infer<typeof feedbackSchema>>;
export type SetPointUnit = "µs" | "ticks";

export const setPointUnit = (card: ServoCard): SetPointUnit => (card.kind === "smart" ? "ticks" : "µs");

/** Nobody has said yet what is too much. */
export const noAlarms: Alarms = { highestC: null, lowestV: null, highestV: null, highestLoad: null };
