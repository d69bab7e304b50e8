import {
  between,
  type DeepReadonly,
  finite,
  idSchema,
  labelSchema,
  listUpTo,
  positive,
  rangeSchema,
  wholeBetween,
} from "@core/schema";
import * as z from "zod/mini";

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

export const claimantSchema = z.enum(["hand", "lead", "routine"]);

/** Who gets a joint that several want. The hand always gets it; a release of everything beats all. */
export const controlSchema = z.strictObject({
  /** By touch: whoever moves last takes it. By order: only who stands no lower than the one who has it. */
  takes: z.enum(["touch", "order"]),
  /** From the first to the last; each stands in it once. */
  order: z
    .array(claimantSchema)
    .check(
      z.refine((order) => order.length === 3 && new Set(order).size === 3, { error: "each claimant stands once" }),
    ),
  /** So long after the last touch it is given back to whoever else wants it; null for never. */
  giveBackMs: z.nullable(between(0, 600_000)),
  /** On a change of hands the joint goes over to the new one's wish in this time. */
  blendMs: between(0, 10_000),
});

export const jointSchema = z.strictObject({
  id: idSchema,
  label: labelSchema,
  rigId: idSchema,
  cardId: idSchema,
  boardId: idSchema,
  channel: wholeBetween(0, 253),
  axis: axisSchema,
  control: controlSchema,
});

/** What becomes of a rig's joints when left and right are exchanged. */
const mirrorSchema = z.discriminatedUnion("kind", [
  /** These two change places; −1 where equal movements have opposite signs. */
  z.strictObject({ kind: z.literal("pair"), leftId: idSchema, rightId: idSchema, sign: directionSchema }),
  /** This one stands in the middle: its target changes sign. */
  z.strictObject({ kind: z.literal("middle"), jointId: idSchema }),
]);

export const rigSchema = z.strictObject({ id: idSchema, label: labelSchema, mirror: listUpTo(mirrorSchema, 200) });

/** One side of a target: above 10°, below −5°. */
const sideSchema = z.strictObject({ jointId: idSchema, side: z.enum(["above", "below"]), target: finite });

/** While the one joint is past its target, the other stays on its side: what must not meet is kept apart. */
export const conditionSchema = z.strictObject({ id: idSchema, while: sideSchema, stays: sideSchema });

export type Axis = DeepReadonly<z.infer<typeof axisSchema>>;
export type AngleAxis = Extract<Axis, { kind: "angle" }>;
export type SpinAxis = Extract<Axis, { kind: "spin" }>;
export type Joint = DeepReadonly<z.infer<typeof jointSchema>>;
export type JointControl = DeepReadonly<z.infer<typeof controlSchema>>;
export type Claimant = z.infer<typeof claimantSchema>;
export type Mirror = DeepReadonly<z.infer<typeof mirrorSchema>>;
export type Side = DeepReadonly<z.infer<typeof sideSchema>>;
export type Condition = DeepReadonly<z.infer<typeof conditionSchema>>;
export type Rig = DeepReadonly<z.infer<typeof rigSchema>>;

/** Where a joint is at home, as a target: in degrees, or as a speed of a wheel, which rests. */
export const homeTargetOf = ({ axis }: Pick<Joint, "axis">): number => (axis.kind === "angle" ? axis.homeDeg : 0);

/** How joints are handed over until somebody sets it otherwise. */
export const usualControl: JointControl = {
  takes: "touch",
  order: ["hand", "lead", "routine"],
  giveBackMs: null,
  blendMs: 250,
};
