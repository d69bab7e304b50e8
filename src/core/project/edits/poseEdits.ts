import { problem } from "@core/result";
import type { LeadTarget } from "../lead";
import type { Pose } from "../routine";
import { addItem, changeItem, type Edit, removeItem } from "./edit";

export const addPose = (pose: Pose): Edit => ({
  name: "Capture pose",
  apply: (project) =>
    Object.keys(pose.targets).length === 0
      ? problem("There is no held joint to capture. Hold at least one first.")
      : addItem(project, "poses", pose),
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
        routines: project.routines.map((routine) => ({
          ...routine,
          steps: routine.steps.filter((step) => step.poseId !== poseId),
        })),
      },
      "poses",
      poseId,
    ),
});
