import { shippedLayouts } from "@core/bus";
import { readProject } from "@core/files";
import {
  addCards,
  addPose,
  addRoutine,
  allOf,
  byId,
  type Edit,
  emptyProject,
  emptyRoutine,
  type Pose,
  type Project,
  type Routine,
  routineSchema,
  type ServoCard,
  schemaVersion,
} from "@core/project";
import { ok, problem, type Result } from "@core/result";
import { type DeepReadonly, finite, labelSchema, listUpTo } from "@core/schema";
import { namedBy, type Step } from "@core/steps";
import * as z from "zod/mini";

/** A joint that a gift speaks of: on another bench it is found by its label. */
const jointSchema = z.strictObject({ label: labelSchema, unit: z.enum(["°", "spin"]) });

/** A pose, its targets by the joints' places in the gift. */
const poseSchema = z.strictObject({
  name: labelSchema,
  targets: listUpTo(z.tuple([z.number().check(z.int(), z.nonnegative(), z.lte(199)), finite]), 200),
});

/** What goes into an address: one card, one pose, or one small routine with its poses. Joints are named by `j0`, `j1` …, poses by `p0`, `p1` …. */
const giftSchema = z.discriminatedUnion("kind", [
  z.strictObject({ kind: z.literal("card"), version: z.number(), card: z.unknown() }),
  z.strictObject({
    kind: z.literal("pose"),
    version: z.number(),
    joints: listUpTo(jointSchema, 200),
    pose: poseSchema,
  }),
  z.strictObject({
    kind: z.literal("routine"),
    version: z.number(),
    joints: listUpTo(jointSchema, 200),
    poses: listUpTo(poseSchema, 200),
    routine: routineSchema,
  }),
]);

export type Gift = DeepReadonly<z.infer<typeof giftSchema>>;
export type GiftJoint = DeepReadonly<z.infer<typeof jointSchema>>;

export type GiftOf = { readonly kind: "card" | "pose" | "routine"; readonly id: string };

const jointName = (at: number) => `j${at}`;
const poseName = (at: number) => `p${at}`;

/** What a friend's bench can take in of this card, pose or routine. Fails in words where it does not stand by itself. */
export function giftOf(project: Project, { kind, id }: GiftOf): Result<Gift> {
  const version = schemaVersion;
  if (kind === "card") {
    const card = project.cards.find((one) => one.id === id);
    if (!card) return problem("That card is no longer on the bench.");
    if (card.kind === "smart" && !shippedLayouts.some((layout) => layout.id === card.layoutId))
      return problem(`${card.label} is of a family that only this bench knows. Share the project file instead.`);
    // Where it hangs on this bench is nobody else's business; what was measured is.
    return ok({ kind, version, card });
  }
  if (kind === "pose") {
    const pose = project.poses.find((one) => one.id === id);
    if (!pose) return problem("That pose is no longer on the bench.");
    const ids = project.joints.filter((joint) => pose.targets[joint.id] !== undefined).map((joint) => joint.id);
    return ok({ kind, version, joints: jointsOf(project, ids), pose: poseOf(pose, ids) });
  }
  const routine = project.routines.find((one) => one.id === id);
  if (!routine) return problem("That routine is no longer on the bench.");
  const stands = standsAlone(routine);
  if (stands) return problem(stands);
  return ok(routineGift(project, routine));
}

/** Why a routine cannot go into an address; null where it can. */
function standsAlone({ name, steps, clips }: Routine): string | null {
  const instead = "Share the project file instead.";
  if (clips.length > 0) return `${name} plays takes, which are too much for an address. ${instead}`;
  const other = steps.find((step) => step.kind === "routine" || step.kind === "wait");
  return other
    ? `${name} ${other.kind === "wait" ? "waits for a source" : "plays another routine"} of this bench. ${instead}`
    : null;
}

const unitOf = ({ axis }: Project["joints"][number]): GiftJoint["unit"] => (axis.kind === "angle" ? "°" : "spin");

const jointsOf = (project: Project, ids: readonly string[]): readonly GiftJoint[] =>
  ids.map((id) => {
    const joint = byId(project.joints, id);
    return { label: joint.label, unit: unitOf(joint) };
  });

const poseOf = ({ name, targets }: Pose, ids: readonly string[]) => ({
  name,
  targets: ids.flatMap((id, at): [number, number][] => (targets[id] === undefined ? [] : [[at, targets[id]]])),
});

function routineGift(project: Project, routine: Routine): Gift {
  const poseIds = [...new Set(routine.steps.flatMap((step) => namedBy(step).poseId ?? []))];
  const poses = poseIds.map((id) => byId(project.poses, id));
  const named = new Set([
    ...poses.flatMap(({ targets }) => Object.keys(targets)),
    ...routine.lanes.map(({ jointId }) => jointId),
  ]);
  const ids = project.joints.filter((joint) => named.has(joint.id)).map((joint) => joint.id);
  return {
    kind: "routine",
    version: schemaVersion,
    joints: jointsOf(project, ids),
    poses: poses.map((pose) => poseOf(pose, ids)),
    routine: renamed(
      { ...routine, id: "r", timetable: null },
      (jointId) => (ids.includes(jointId) ? jointName(ids.indexOf(jointId)) : null),
      (poseId) => poseName(poseIds.indexOf(poseId)),
      (at) => `s${at}`,
    ),
  };
}

/** A routine with other names for its joints, poses and steps; what has no name is left out. */
function renamed(
  routine: Routine,
  joint: (id: string) => string | null,
  pose: (id: string) => string | null,
  step: (at: number) => string,
): Routine {
  const steps = routine.steps.flatMap((one, at): Step[] => {
    if (one.kind !== "move") return [{ ...one, id: step(at) }];
    const poseId = pose(one.poseId);
    if (poseId === null) return [];
    const delaysMs = Object.fromEntries(
      Object.entries(one.delaysMs).flatMap(([id, ms]) => {
        const own = joint(id);
        return own === null ? [] : [[own, ms]];
      }),
    );
    return [{ ...one, id: step(at), poseId, delaysMs }];
  });
  const lanes = routine.lanes.flatMap((lane) => {
    const jointId = joint(lane.jointId);
    return jointId === null ? [] : [{ ...lane, jointId }];
  });
  return { ...routine, steps, lanes };
}

/** Reads what came with an address. Whatever is not exactly a gift is refused in words. */
export function readGift(value: unknown): Result<Gift> {
  const read = giftSchema.safeParse(value);
  if (!read.success) return problem("This link does not hold what a Vantel puts into one. Nothing was changed.");
  const gift = read.data;
  if (gift.version > schemaVersion)
    return problem("This link was made by a newer Vantel than this one. Bring this one up to date first.");
  if (gift.kind === "card") {
    const card = cardIn(gift);
    return card.ok ? ok(gift) : card;
  }
  // Steps are not brought up from what they were: a link is for now.
  if (gift.version !== schemaVersion)
    return problem("This link was made by an earlier Vantel. Ask your friend for a new one.");
  const places = gift.joints.length;
  const poses = gift.kind === "pose" ? [gift.pose] : gift.poses;
  const isLost =
    poses.some(({ targets }) => targets.length === 0 || targets.some(([at]) => at >= places)) ||
    (gift.kind === "routine" && !namesWell(gift.routine, places, gift.poses.length));
  return isLost ? problem("This link is damaged: it speaks of what it does not hold. Nothing was changed.") : ok(gift);
}

function namesWell(routine: Routine, joints: number, poses: number): boolean {
  const isJoint = (id: string) => /^j\d{1,3}$/.test(id) && Number(id.slice(1)) < joints;
  const isPose = (id: string) => /^p\d{1,3}$/.test(id) && Number(id.slice(1)) < poses;
  return (
    standsAlone(routine) === null &&
    routine.timetable === null &&
    new Set(routine.steps.map(({ id }) => id)).size === routine.steps.length &&
    routine.lanes.every(({ jointId }) => isJoint(jointId)) &&
    routine.steps.every((step) => {
      const { poseId, jointIds } = namedBy(step);
      return (poseId === undefined || isPose(poseId)) && (jointIds ?? []).every(isJoint);
    })
  );
}

/** The card of a gift, brought up and checked as one from a file is. */
export function cardIn(gift: Extract<Gift, { kind: "card" }>): Result<ServoCard> {
  const bare = { ...emptyProject("gift", "Gift"), cards: [gift.card] };
  const read = readProject(bare, gift.version);
  if (!read.ok) return problem(`The card in this link cannot be read: ${read.problem}`);
  const [card] = read.value.cards;
  return card ? ok(card) : problem("There is no card in this link.");
}

/** Which of this bench's joints each of a gift's is, by label; null for none. */
export const matched = (project: Project, joints: readonly GiftJoint[]): readonly (string | null)[] =>
  joints.map(
    ({ label, unit }) => project.joints.find((joint) => joint.label === label && unitOf(joint) === unit)?.id ?? null,
  );

/** Whether a joint of this bench can be what a gift's joint is: an angle for an angle, a spin for a spin. */
export const isLike = (joint: Project["joints"][number], { unit }: GiftJoint): boolean => unitOf(joint) === unit;

/**
 * Takes a gift in, as one edit.
 * @param jointIds which of this bench's joints each of the gift's is; null leaves it out
 */
export function takeIn(gift: Gift, jointIds: readonly (string | null)[], newId: () => string): Edit {
  if (gift.kind === "card") {
    const card = cardIn(gift);
    const name = "Take in a card";
    return card.ok ? { ...addCards([{ ...card.value, id: newId() }]), name } : { name, apply: () => card };
  }
  const posed = ({ name, targets }: Extract<Gift, { kind: "pose" }>["pose"]): Pose => ({
    id: newId(),
    name,
    group: "",
    targets: Object.fromEntries(
      targets.flatMap(([at, target]): [string, number][] => {
        const id = jointIds[at as number];
        return id ? [[id, target as number]] : [];
      }),
    ),
  });
  const none = "None of its joints is on this bench: choose at least one.";
  if (gift.kind === "pose") {
    const pose = posed(gift.pose);
    if (Object.keys(pose.targets).length === 0) return { name: "Take in a pose", apply: () => problem(none) };
    return addPose(pose, "Take in a pose");
  }
  const poses = gift.poses.map(posed);
  const kept = poses.filter(({ targets }) => Object.keys(targets).length > 0);
  const id = newId();
  const routine = renamed(
    { ...gift.routine, id },
    (jointId) => jointIds[Number(jointId.slice(1))] ?? null,
    (poseId) => kept.find((pose) => pose === poses[Number(poseId.slice(1))])?.id ?? null,
    newId,
  );
  const name = "Take in a routine";
  if (kept.length === 0 && routine.lanes.length === 0) return { name, apply: () => problem(none) };
  const lanes = routine.lanes.filter(
    (lane, at) => routine.lanes.findIndex((one) => one.jointId === lane.jointId) === at,
  );
  return allOf(name, [
    ...kept.map((pose) => addPose(pose, name)),
    addRoutine({ ...emptyRoutine(id, routine.name), ...routine, lanes }),
  ]);
}
