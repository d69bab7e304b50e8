import { type Control, worksOf } from "@core/controls";
import { byId, jointsMovingTip, type Lead, type Project } from "@core/project";
import { jointsOf } from "@core/routine";
import { othersOf } from "@core/shapers";

/** The joints that a control can move, by id: straight, through the leads of its sources, by a pose or by a routine. */
export function reachOf(project: Project, control: Control): readonly string[] {
  const { sourceIds = [], poseId, routineId, jointId } = worksOf(control);
  const reached = new Set<string>();
  if (jointId !== undefined) reached.add(jointId);
  if (poseId !== undefined) addPose(project, poseId, reached);
  if (routineId !== undefined) addRoutine(project, routineId, reached);
  for (const lead of project.leads)
    if (sourceIds.some((id) => lead.sourceId === id || othersOf(lead.shapers).includes(id)))
      addLead(project, lead, reached);
  return [...reached];
}

function addLead(project: Project, { target }: Lead, reached: Set<string>): void {
  if (target.kind === "joint") reached.add(target.jointId);
  else if (target.kind === "blend") {
    addPose(project, target.fromPoseId, reached);
    addPose(project, target.toPoseId, reached);
  } else if (target.kind === "tip") for (const id of jointsMovingTip(project, target.tipId)) reached.add(id);
  else if (target.action.kind === "goToPose") addPose(project, target.action.poseId, reached);
  else if (target.action.kind === "play") addRoutine(project, target.action.routineId, reached);
  // These move whatever plays, and that may be any joint.
  else if (["pause", "next", "previous"].includes(target.action.kind))
    for (const { id } of project.joints) reached.add(id);
}

function addPose({ poses }: Project, poseId: string, reached: Set<string>): void {
  for (const id of Object.keys(byId(poses, poseId).targets)) reached.add(id);
}

function addRoutine(project: Project, routineId: string, reached: Set<string>): void {
  for (const id of jointsOf(project, byId(project.routines, routineId))) reached.add(id);
}
