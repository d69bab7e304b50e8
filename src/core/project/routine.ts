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
import { lengthMs, longestStepMs, stepSchema } from "@core/steps";
import * as z from "zod/mini";

/** A place on the time of a routine, which may be some hours long. */
const momentMs = between(0, 24 * longestStepMs);

/** A target at a moment, and how it goes on from there to the next. */
const keySchema = z.strictObject({
  atMs: momentMs,
  target: finite,
  shape: z.enum(["line", "smooth", "step"]),
});

/** A routine has room for so many steps. */
export const mostSteps = 20_000;

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
  steps: listUpTo(stepSchema, mostSteps),
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
