import { easingSchema } from "@core/easings";
import { ok, problem } from "@core/result";
import { between, idSchema, type ValueOf } from "@core/schema";
import * as z from "zod/mini";
import { lengthMs, longestStepMs, secondsOf } from "./lengths";
import type { Aim, Ground, Laid, StepKind } from "./stepKind";

const slowestDegPerS = 0.1;

const paceSchema = z.discriminatedUnion("kind", [
  z.strictObject({ kind: z.literal("time"), moveMs: lengthMs }),
  /** As long as the joint with the longest way needs at this mean speed; all arrive together. */
  z.strictObject({ kind: z.literal("speed"), degPerS: between(slowestDegPerS, 10_000) }),
]);

const mm = between(-20_000, 20_000);

/** How a tip of a figure is led on its way to where the pose has it: straight, or round through a third place. */
const pathSchema = z.strictObject({
  tipId: idSchema,
  /** Null for straight; in mm, in the world. */
  viaMm: z.nullable(z.tuple([mm, mm, mm])),
  /** Its mean speed along the way; null leaves the length to the move's own pace. */
  mmPerS: z.nullable(between(0.1, 100_000)),
  /** What of its direction it keeps to on the way, turned evenly from one end to the other: how it rises over the level, or all of it. It may point freely without. */
  pointing: z.optional(z.enum(["tilt", "direction"])),
});

/** Goes to a pose, and stands there for a while. */
const schema = z.strictObject({
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
  path: z.optional(pathSchema),
});

export type Move = ValueOf<typeof schema>;
export type Pace = Move["pace"];
export type TipPath = NonNullable<Move["path"]>;

/** A move to a pose as it is first made. */
export const freshMove = (id: string, poseId: string): Move => ({
  kind: "move",
  id,
  poseId,
  pace: { kind: "time", moveMs: 1000 },
  easing: { kind: "leastJerk" },
  staggerMs: 0,
  delaysMs: {},
  holdMs: 0,
});

/** How long a move takes whose joints have these ways, in targets. */
export const moveMsOf = (pace: Pace, ways: readonly number[]): number =>
  pace.kind === "time" ? pace.moveMs : (Math.max(0, ...ways) / pace.degPerS) * 1000;

export const move: StepKind<typeof schema> = {
  schema,
  name: "a move",
  begin: (id, { poses }) => {
    const pose = poses.at(-1);
    return pose ? ok({ ...freshMove(id, pose.id), holdMs: 500 }) : problem("Capture a pose first: a move goes to one.");
  },
  named: ({ poseId, delaysMs }) => ({ poseId, jointIds: Object.keys(delaysMs) }),
  withoutJoint: (step, jointId) => {
    const { [jointId]: _, ...delaysMs } = step.delaysMs;
    return { ...step, delaysMs };
  },
  lay: (step, atMs, ground) => {
    const { pace, staggerMs, delaysMs, holdMs } = step;
    const aims = ground.aimsOf(step.poseId);
    if (step.path) return ok(laidAlong(step, step.path, atMs, aims, ground));
    const ways = () => aims.map(({ joint, target }) => Math.abs(target - ground.standsAt(joint)));
    const moveMs = pace.kind === "time" ? pace.moveMs : moveMsOf(pace, ways());
    const go = ground.mover(step.id, step.easing);
    let arriveMs = atMs + moveMs;
    // Few moves have delays, and to look for each joint's among none took half of the time in which a long routine is laid.
    const hasDelays = Object.keys(delaysMs).length > 0;
    for (let order = 0; order < aims.length; order += 1) {
      const aim = aims[order] as Aim;
      const delayMs = hasDelays ? (delaysMs[aim.jointId] ?? 0) : 0;
      const fromMs = atMs + order * staggerMs + delayMs;
      go(aim, fromMs, fromMs + moveMs);
      arriveMs = Math.max(arriveMs, fromMs + moveMs);
    }
    return ok({ arriveMs, toMs: arriveMs + holdMs });
  },
  words: ({ poseId, path }, names) =>
    path
      ? `${names.pose(poseId)}, ${path.viaMm ? "round" : "straight"}${path.pointing ? `, ${path.pointing} kept` : ""}`
      : names.pose(poseId),
  lengthWords: ({ pace, holdMs, path }) => {
    const own = pace.kind === "time" ? secondsOf(pace.moveMs) : `${pace.degPerS} °/s`;
    const time = path?.mmPerS ? `${path.mmPerS} mm/s` : own;
    return holdMs > 0 ? `${time} + ${secondsOf(holdMs)}` : time;
  },
  lengthened: (step, byMs) =>
    step.pace.kind === "time" && !step.path?.mmPerS
      ? { ...step, pace: { kind: "time", moveMs: Math.max(0, step.pace.moveMs + byMs) } }
      : step,
  stretched: (step, { factor, restMs }) => {
    const pace: Pace =
      step.pace.kind === "time"
        ? { kind: "time", moveMs: step.pace.moveMs * factor }
        : { kind: "speed", degPerS: step.pace.degPerS / factor };
    const isTooLong = pace.kind === "time" ? pace.moveMs > longestStepMs : pace.degPerS < slowestDegPerS;
    if (isTooLong || restMs > longestStepMs) return null;
    const delaysMs = Object.fromEntries(Object.entries(step.delaysMs).map(([id, ms]) => [id, ms * factor]));
    const path = step.path && { ...step.path, mmPerS: step.path.mmPerS && Math.max(0.1, step.path.mmPerS / factor) };
    return { ...step, pace, staggerMs: step.staggerMs * factor, delaysMs, holdMs: restMs, ...(path && { path }) };
  },
};

/** Lays a move along which a tip is led: all its joints begin and arrive together. */
function laidAlong(step: Move, path: TipPath, atMs: number, aims: readonly Aim[], ground: Ground<Move>): Laid {
  const ways = aims.map(({ joint, target }) => Math.abs(target - ground.standsAt(joint)));
  const ownMs = moveMsOf(step.pace, ways);
  const arriveMs = ground.along(step.id, step.easing, path, aims, atMs, (wayMm) =>
    path.mmPerS === null ? ownMs : Math.min(longestStepMs, (wayMm / path.mmPerS) * 1000),
  );
  return { arriveMs, toMs: arriveMs + step.holdMs };
}
