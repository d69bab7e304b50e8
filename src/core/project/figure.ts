import {
  atLeastZero,
  between,
  type DeepReadonly,
  finite,
  idSchema,
  labelSchema,
  listUpTo,
  positive,
  rangeSchema,
} from "@core/schema";
import { shapeSchema } from "@core/shapes";
import * as z from "zod/mini";

/** In mm, or for a turn in degrees. */
const far = between(-20_000, 20_000);
const vectorSchema = z.tuple([far, far, far]);
const axisSchema = vectorSchema.check(
  z.refine(([x, y, z]) => Math.hypot(x, y, z) > 1e-6, { error: "an axis needs a direction" }),
);

/**
 * Where a frame stands in the one that it hangs on: x forward, y to the left, z up. `turnDeg` is roll, pitch and yaw: turns about the x, the y and the z of
 * that other frame, one after another.
 */
const placeSchema = z.strictObject({ atMm: vectorSchema, turnDeg: vectorSchema });

/** Beyond it no gear is built. */
const ratio = between(-10_000, 10_000);

/** What a moved part does: its **way**, in degrees or mm, as a number made of a joint's target or of another part's way. */
const driveSchema = z.discriminatedUnion("kind", [
  /** way = ratio × target + offset; of no joint (null) it stands still at its offset. */
  z.strictObject({ kind: z.literal("joint"), jointId: z.nullable(idSchema), ratio, offset: far }),
  /** way = ratio × the other's way + offset, kept within its range. */
  z.strictObject({
    kind: z.literal("part"),
    partId: idSchema,
    ratio,
    offset: far,
    range: z.nullable(rangeSchema),
  }),
  /**
   * A four-bar linkage: the other part is its crank, this one its rocker, and the way is how far the rocker has turned from where it stands while the other's
   * way is 0. There the crank points this much away from the line between the two axles.
   */
  z.strictObject({
    kind: z.literal("linkage"),
    partId: idSchema,
    groundMm: positive,
    crankMm: positive,
    couplerMm: positive,
    rockerMm: positive,
    crankAtDeg: finite,
    isCrossed: z.boolean(),
  }),
]);

const motionSchema = z.discriminatedUnion("kind", [
  z.strictObject({ kind: z.literal("fixed") }),
  z.strictObject({ kind: z.literal("turn"), axis: axisSchema, by: driveSchema }),
  z.strictObject({ kind: z.literal("slide"), axis: axisSchema, by: driveSchema }),
]);

const colorSchema = z.string().check(z.regex(/^#[0-9a-f]{6}$/));

const bodySchema = z.strictObject({
  place: placeSchema,
  shape: shapeSchema,
  color: colorSchema,
  /** Whether it can meet others; a painted eye cannot. */
  isSolid: z.boolean(),
});

const partSchema = z.strictObject({
  id: idSchema,
  label: labelSchema,
  /** The part that it hangs on; null for one that stands on the figure's own foot. */
  parentId: z.nullable(idSchema),
  place: placeSchema,
  motion: motionSchema,
  bodies: listUpTo(bodySchema, 60),
  massG: between(0, 1_000_000),
  /** Where its mass is, in its own frame. */
  centreMm: vectorSchema,
  /** Moments of inertia about its centre (xx, xy, xz, yy, yz, zz), in g·mm²; null has them worked out from its bodies. */
  inertiaGMm2: z.nullable(z.tuple([finite, finite, finite, finite, finite, finite])),
});

/** A place on a part that is moved or aimed: it points, or looks, along its x. */
const tipSchema = z.strictObject({
  id: idSchema,
  label: labelSchema,
  partId: idSchema,
  place: placeSchema,
  does: z.enum(["reach", "look"]),
});

/** Pulls two places together: force = stiffness × (length − free length), nothing while it is slack. */
const springSchema = z.strictObject({
  id: idSchema,
  label: labelSchema,
  fromPartId: idSchema,
  fromMm: vectorSchema,
  toPartId: idSchema,
  toMm: vectorSchema,
  freeMm: atLeastZero,
  nPerMm: atLeastZero,
});

export const figureSchema = z.strictObject({
  id: idSchema,
  label: labelSchema,
  rigId: idSchema,
  /** Where its foot stands on the table. */
  place: placeSchema,
  parts: listUpTo(partSchema, 200),
  tips: listUpTo(tipSchema, 40),
  springs: listUpTo(springSchema, 40),
  /** Pairs of parts that may touch. */
  mayTouch: listUpTo(z.tuple([idSchema, idSchema]), 400),
  /** Servos are asked for no more than this share of what they can: 0.5 keeps half in reserve. */
  useShare: between(0.05, 1),
});

/** What stands around: a pot that is met, or a zone that must not be entered. */
export const thingSchema = z.strictObject({
  id: idSchema,
  label: labelSchema,
  kind: z.enum(["solid", "zone", "seen"]),
  place: placeSchema,
  shape: shapeSchema,
  color: colorSchema,
});

export type Place = DeepReadonly<z.infer<typeof placeSchema>>;
export type Drive = DeepReadonly<z.infer<typeof driveSchema>>;
export type Motion = DeepReadonly<z.infer<typeof motionSchema>>;
export type Body = DeepReadonly<z.infer<typeof bodySchema>>;
export type Part = DeepReadonly<z.infer<typeof partSchema>>;
export type Tip = DeepReadonly<z.infer<typeof tipSchema>>;
export type Spring = DeepReadonly<z.infer<typeof springSchema>>;
export type Figure = DeepReadonly<z.infer<typeof figureSchema>>;
export type Thing = DeepReadonly<z.infer<typeof thingSchema>>;

/** Nothing moved, nothing turned. */
export const here: Place = { atMm: [0, 0, 0], turnDeg: [0, 0, 0] };
