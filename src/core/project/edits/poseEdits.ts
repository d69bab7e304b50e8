import { ok, problem } from "@core/result";
import { namedBy } from "@core/steps";
import type { LeadTarget } from "../lead";
import type { Pose } from "../pose";
import { addItem, changeItem, type Edit, removeItem } from "./edit";
import { withoutSteps } from "./withoutSteps";

/** Adds a pose, just after another one where that is named. */
export const addPose = (pose: Pose, name = "Capture pose", afterId?: string): Edit => ({
  name,
  apply: (project) => {
    if (Object.keys(pose.targets).length === 0)
      return problem("There is no held joint to capture. Hold at least one first.");
    const after = project.poses.findIndex((one) => one.id === afterId);
    return after < 0
      ? addItem(project, "poses", pose)
      : ok({ ...project, poses: project.poses.toSpliced(after + 1, 0, pose) });
  },
});

/** Replaces the targets of a pose by those of a new capture. */
export const recapturePose = (poseId: string, targets: Pose["targets"]): Edit => ({
  name: "Capture again",
  apply: (project) =>
    Object.keys(targets).length === 0
      ? problem("There is no held joint to capture. Hold at least one first.")
      : changeItem(project, "poses", poseId, (pose) => ({ ...pose, targets })),
});

/** Sets one joint's target in a pose, or takes the joint out of it with null. A pose keeps at least one joint. */
export const setPoseTarget = (poseId: string, jointId: string, target: number | null): Edit => ({
  name: "Edit pose",
  mergeKey: `pose:${poseId}:${jointId}`,
  apply: (project) => {
    const pose = project.poses.find((candidate) => candidate.id === poseId);
    if (!pose) return problem("That pose is no longer on the bench.");
    const { [jointId]: _before, ...others } = pose.targets;
    const targets = target === null ? others : { ...others, [jointId]: target };
    if (Object.keys(targets).length === 0) return problem("A pose needs at least one joint. Delete the pose instead.");
    return changeItem(project, "poses", poseId, (before) => ({ ...before, targets }));
  },
});

/** Gives several poses new targets at once, by pose and joint; joints that are not named stay as they are. */
export const setPoseTargets = (
  name: string,
  targets: ReadonlyMap<string, Pose["targets"]>,
  mergeKey?: string,
): Edit => ({
  name,
  ...(mergeKey !== undefined && { mergeKey }),
  apply: (project) =>
    ok({
      ...project,
      poses: project.poses.map((pose) => {
        const changed = targets.get(pose.id);
        return changed ? { ...pose, targets: { ...pose.targets, ...changed } } : pose;
      }),
    }),
});

/** Moves joints by so much in every one of some poses that has them. */
export const nudgePoses = (poseIds: ReadonlySet<string>, jointIds: ReadonlySet<string>, by: number): Edit => ({
  name: poseIds.size > 1 ? `Nudge in ${poseIds.size} poses` : "Nudge",
  mergeKey: `nudge:${[...poseIds].join()}:${[...jointIds].join()}`,
  apply: (project) =>
    ok({
      ...project,
      poses: project.poses.map((pose) =>
        poseIds.has(pose.id)
          ? {
              ...pose,
              targets: Object.fromEntries(
                Object.entries(pose.targets).map(([id, target]) => [
                  id,
                  jointIds.has(id) ? rounded(target + by) : target,
                ]),
              ),
            }
          : pose,
      ),
    }),
});

/** Sums of tenths stay tenths. */
const rounded = (target: number) => Math.round(target * 1e6) / 1e6;

/** Puts poses under a heading; an empty one takes them out of theirs. */
export const groupPoses = (poseIds: ReadonlySet<string>, group: string): Edit => ({
  name: "Group poses",
  apply: (project) =>
    group.length > 80
      ? problem("A heading has at most 80 characters.")
      : ok({
          ...project,
          poses: project.poses.map((pose) => (poseIds.has(pose.id) ? { ...pose, group: group.trim() } : pose)),
        }),
});

/** Puts a pose just before another in the list, under the same heading; at the end of the list with null. */
export const placePose = (poseId: string, beforeId: string | null): Edit => ({
  name: "Reorder poses",
  apply: (project) => {
    const pose = project.poses.find((one) => one.id === poseId);
    if (!pose) return problem("That pose is no longer on the bench.");
    if (beforeId === poseId) return ok(project);
    const others = project.poses.filter((one) => one !== pose);
    const at = others.findIndex((one) => one.id === beforeId);
    const group = others[at]?.group ?? others.at(-1)?.group ?? pose.group;
    return ok({ ...project, poses: others.toSpliced(at < 0 ? others.length : at, 0, { ...pose, group }) });
  },
});

const namesPose = (target: LeadTarget, poseId: string): boolean =>
  target.kind === "blend"
    ? target.fromPoseId === poseId || target.toPoseId === poseId
    : target.kind === "action" && target.action.kind === "goToPose" && target.action.poseId === poseId;

/** Removes a pose, the moves of every routine that went to it, and the leads that led to it. */
export const removePose = (poseId: string): Edit => ({
  name: "Delete pose",
  apply: (project) =>
    removeItem(
      {
        ...project,
        leads: project.leads.filter(({ target }) => !namesPose(target, poseId)),
        routines: project.routines.map((routine) => withoutSteps(routine, (step) => namedBy(step).poseId === poseId)),
      },
      "poses",
      poseId,
    ),
});
