import * as z from "zod/mini";
import {
  atLeastZero,
  between,
  type DeepReadonly,
  finite,
  idSchema,
  listUpTo,
  positive,
  rangeSchema,
  wholeBetween,
} from "./parts";

/** Two ends that may run downward: a reversed map. */
const endsSchema = z.strictObject({ low: finite, high: finite });
const durationMs = between(0, 600_000);

/** One stage on the way from a source's number to a target. Units are those of what comes in, unless said otherwise. */
export const shaperSchema = z.discriminatedUnion("kind", [
  /** Stretches one range onto another; what lies outside stays at the nearer end. */
  z.strictObject({ kind: z.literal("rangeMap"), from: rangeSchema, to: endsSchema }),
  /** Keeps to a range: by staying at its ends, or by coming in again at the other. */
  z.strictObject({ kind: z.literal("limit"), how: z.enum(["clamp", "wrap"]), range: rangeSchema }),
  /** Nothing happens within `halfWidth` of the centre; beyond it the rest of `reach` is stretched, so that the ends stay. */
  z
    .strictObject({ kind: z.literal("deadband"), centre: finite, halfWidth: atLeastZero, reach: positive })
    .check(z.refine((one) => one.halfWidth < one.reach, { error: "the deadband must be narrower than the reach" })),
  z.strictObject({
    kind: z.literal("curve"),
    range: rangeSchema,
    shape: z.discriminatedUnion("kind", [
      /** About the middle: gentle there and steep at the ends for positive amounts, the other way for negative. */
      z.strictObject({ kind: z.literal("expo"), amount: between(-1, 1) }),
      /** Gentle at both ends. */
      z.strictObject({ kind: z.literal("s"), amount: between(0, 1) }),
      /** Drawn: shares of the range, from left to right. */
      z.strictObject({
        kind: z.literal("points"),
        points: z.array(z.strictObject({ x: between(0, 1), y: between(0, 1) })).check(
          z.minLength(2),
          z.maxLength(20),
          z.refine((points) => points.every((point, at) => at === 0 || point.x > (points[at - 1]?.x ?? 0)), {
            error: "drawn points must run from left to right",
          }),
        ),
      }),
    ]),
  }),
  /** Smooths what rests and lets pass what moves: `lagMs` at rest; `quickness` how soon that falls when `span` is crossed in a second. */
  z.strictObject({ kind: z.literal("smooth"), lagMs: between(1, 5000), quickness: between(0, 50), span: positive }),
  /** Lets a new value through only when it differs by so much. */
  z.strictObject({ kind: z.literal("change"), by: atLeastZero }),
  z.strictObject({ kind: z.literal("rate"), perS: positive }),
  /** Whole detents of an encoder that counts several steps for each. */
  z.strictObject({ kind: z.literal("detents"), stepsPerDetent: wholeBetween(1, 64) }),
  /** 1 from `on`, 0 from `off`, each after it has lasted `dwellMs`; between the two it stays. `on` below `off` switches on when it falls. */
  z
    .strictObject({ kind: z.literal("threshold"), on: finite, off: finite, dwellMs: durationMs })
    .check(z.refine((one) => one.on !== one.off, { error: "on and off must lie apart, or it chatters" })),
  /** Each switching on turns it over. */
  z.strictObject({ kind: z.literal("toggle") }),
  /** Switched on, it stays on for at least so long. */
  z.strictObject({ kind: z.literal("latch"), holdMs: durationMs }),
  /** A short press (let go before `longMs`) or a long one (held until then), as a single moment. */
  z.strictObject({ kind: z.literal("press"), which: z.enum(["short", "long"]), longMs: between(50, 10_000) }),
  /** Takes the value when another source switches on, and keeps it until the next time. */
  z.strictObject({ kind: z.literal("sample"), whenSourceId: idSchema }),
  z.strictObject({ kind: z.literal("add"), by: finite }),
  z.strictObject({ kind: z.literal("scale"), by: finite }),
  /** Joins another source, stretched from its own range onto `to`. `share` is the other's part of a mix. */
  z.strictObject({
    kind: z.literal("combine"),
    sourceId: idSchema,
    to: endsSchema,
    how: z.enum(["sum", "product", "larger", "mix"]),
    share: between(0, 1),
  }),
  /** While a switch is on, another source takes this one's place, stretched onto `to`. */
  z.strictObject({ kind: z.literal("select"), switchId: idSchema, sourceId: idSchema, to: endsSchema }),
]);

export const targetSchema = z.discriminatedUnion("kind", [
  /** A joint's angle in degrees, or a spin of −1…+1. */
  z.strictObject({ kind: z.literal("joint"), jointId: idSchema }),
  /** 0 is the one pose, 1 the other, for the joints that both have. */
  z.strictObject({ kind: z.literal("blend"), fromPoseId: idSchema, toPoseId: idSchema }),
  /** Done each time the chain switches on. */
  z.strictObject({
    kind: z.literal("action"),
    action: z.discriminatedUnion("kind", [
      z.strictObject({ kind: z.literal("goToPose"), poseId: idSchema, moveMs: durationMs }),
      z.strictObject({ kind: z.literal("play"), routineId: idSchema }),
      z.strictObject({ kind: z.literal("stop") }),
      z.strictObject({ kind: z.literal("pause") }),
      z.strictObject({ kind: z.literal("next") }),
      z.strictObject({ kind: z.literal("previous") }),
      z.strictObject({ kind: z.literal("release") }),
      z.strictObject({ kind: z.literal("capture") }),
    ]),
  }),
]);

/** A path from a source to a target through a chain of shapers, in order. */
export const leadSchema = z.strictObject({
  id: idSchema,
  sourceId: idSchema,
  target: targetSchema,
  shapers: listUpTo(shaperSchema, 20),
  isMuted: z.boolean(),
});

export type Shaper = DeepReadonly<z.infer<typeof shaperSchema>>;
export type ShaperKind = Shaper["kind"];
export type ShaperOf<Kind extends ShaperKind> = Extract<Shaper, { kind: Kind }>;
export type Lead = DeepReadonly<z.infer<typeof leadSchema>>;
export type LeadTarget = Lead["target"];

/** The joint that a lead moves, where it moves just one. */
export const jointOfLead = (lead: Lead): string | null => (lead.target.kind === "joint" ? lead.target.jointId : null);

/** The other sources that a chain listens to. */
export const othersOf = (shapers: readonly Shaper[]): readonly string[] =>
  shapers.flatMap((shaper) => {
    if (shaper.kind === "sample") return [shaper.whenSourceId];
    if (shaper.kind === "combine") return [shaper.sourceId];
    return shaper.kind === "select" ? [shaper.switchId, shaper.sourceId] : [];
  });
