import { easingSchema } from "@core/easings";
import {
  between,
  type DeepReadonly,
  finite,
  idSchema,
  labelSchema,
  listUpTo,
  textUpTo,
  wholeBetween,
} from "@core/schema";
import * as z from "zod/mini";

/** The longest move, hold or wait: an hour. */
export const longestStepMs = 3_600_000;
const lengthMs = between(0, longestStepMs);
/** A place on the time of a routine, which may be some hours long. */
const momentMs = between(0, 24 * longestStepMs);

const paceSchema = z.discriminatedUnion("kind", [
  z.strictObject({ kind: z.literal("time"), moveMs: lengthMs }),
  /** As long as the joint with the longest way needs at this mean speed; all arrive together. */
  z.strictObject({ kind: z.literal("speed"), degPerS: between(0.1, 10_000) }),
]);

export const stepSchema = z.discriminatedUnion("kind", [
  z.strictObject({
    kind: z.literal("move"),
    id: idSchema,
    poseId: idSchema,
    pace: paceSchema,
    easing: easingSchema,
    /** Each joint starts so much later than the one before it, in the order of the rack. */
    staggerMs: between(0, 60_000),
    /** What single joints wait before they start, besides. */
    delaysMs: z.record(idSchema, between(0, 600_000)),
    /** How long it stands there once all should have arrived. */
    holdMs: lengthMs,
  }),
  z.strictObject({ kind: z.literal("hold"), id: idSchema, holdMs: lengthMs }),
  z.strictObject({ kind: z.literal("routine"), id: idSchema, routineId: idSchema, times: wholeBetween(1, 1000) }),
  /** Time stands still until a source is past a level: a press, a sensor. It takes no time of the score. */
  z.strictObject({
    kind: z.literal("wait"),
    id: idSchema,
    sourceId: idSchema,
    side: z.enum(["above", "below"]),
    level: finite,
    /** So long it waits at most; null for as long as it takes. */
    timeoutMs: z.nullable(lengthMs),
    ifTimeout: z.enum(["goOn", "stop"]),
  }),
  z.strictObject({ kind: z.literal("label"), id: idSchema, text: labelSchema }),
]);

/** A target at a moment, and how it goes on from there to the next. */
const keySchema = z.strictObject({
  atMs: momentMs,
  target: finite,
  shape: z.enum(["line", "smooth", "step"]),
});

/** The fine work of one joint: from its first key to its last it takes the moves' place, or is laid on top of them. */
export const laneSchema = z.strictObject({
  jointId: idSchema,
  mode: z.enum(["replace", "add"]),
  keys: listUpTo(keySchema, 200_000).check(
    z.refine((keys) => keys.every((key, at) => at === 0 || key.atMs > (keys[at - 1]?.atMs ?? 0)), {
      error: "keys stand in the order of time, each at a moment of its own",
    }),
  ),
});

/** A take, or a part of one, at a place in the routine. Later clips lie on top of earlier ones. */
export const clipSchema = z.strictObject({
  id: idSchema,
  takeId: idSchema,
  atMs: momentMs,
  /** The part of the take that is used, in the take's own time. */
  fromMs: momentMs,
  toMs: momentMs,
  /** 2 plays it twice as slowly. */
  stretch: between(0.05, 20),
  fadeInMs: lengthMs,
  fadeOutMs: lengthMs,
  mode: z.enum(["replace", "add"]),
  /** The joints it is used for; null for all of the take. */
  jointIds: z.nullable(listUpTo(idSchema, 200)),
  isMuted: z.boolean(),
});

const timetableSchema = z.discriminatedUnion("kind", [
  z.strictObject({ kind: z.literal("every"), minutes: between(0.1, 1440) }),
  /** Times of the day as hh:mm. */
  z.strictObject({
    kind: z.literal("daily"),
    at: z.array(z.string().check(z.regex(/^([01]\d|2[0-3]):[0-5]\d$/))).check(z.minLength(1), z.maxLength(200)),
  }),
]);

export const routineSchema = z.strictObject({
  id: idSchema,
  name: labelSchema,
  steps: listUpTo(stepSchema, 20_000),
  lanes: listUpTo(laneSchema, 200),
  clips: listUpTo(clipSchema, 2000),
  repeat: z.discriminatedUnion("kind", [
    z.strictObject({ kind: z.literal("times"), times: wholeBetween(1, 100_000) }),
    z.strictObject({ kind: z.literal("forever") }),
  ]),
  /** Each round runs to the end, and then backwards to the beginning. */
  isThereAndBack: z.boolean(),
  atEnd: z.enum(["hold", "release"]),
  /** When it is to start by itself, once a person has armed it; null for never. */
  timetable: z.nullable(timetableSchema),
  notes: textUpTo(4000),
});

export type Pace = DeepReadonly<z.infer<typeof paceSchema>>;
export type Step = DeepReadonly<z.infer<typeof stepSchema>>;
export type StepOf<Kind extends Step["kind"]> = Extract<Step, { kind: Kind }>;
export type Key = DeepReadonly<z.infer<typeof keySchema>>;
export type Lane = DeepReadonly<z.infer<typeof laneSchema>>;
export type Clip = DeepReadonly<z.infer<typeof clipSchema>>;
export type Timetable = DeepReadonly<z.infer<typeof timetableSchema>>;
export type Routine = DeepReadonly<z.infer<typeof routineSchema>>;

/** A routine with nothing in it yet. */
export const emptyRoutine = (id: string, name: string): Routine => ({
  id,
  name,
  steps: [],
  lanes: [],
  clips: [],
  repeat: { kind: "times", times: 1 },
  isThereAndBack: false,
  atEnd: "hold",
  timetable: null,
  notes: "",
});

/** A move to a pose as it is first made. */
export const freshMove = (id: string, poseId: string): StepOf<"move"> => ({
  kind: "move",
  id,
  poseId,
  pace: { kind: "time", moveMs: 1000 },
  easing: { kind: "leastJerk" },
  staggerMs: 0,
  delaysMs: {},
  holdMs: 0,
});
