import { addPose, type Pose } from "@core/project";
import { edit, newId, projectNow } from "./document";
import { liveJoint } from "./live";

/** The targets of all joints that are held at this moment: what a captured pose remembers. */
export function heldTargets(): Pose["targets"] {
  const targets: Record<string, number> = {};
  for (const joint of projectNow().joints) {
    const target = liveJoint(joint.id, "target");
    // A tenth of a degree is finer than any hobby servo; longer numbers only look precise.
    const rounded = joint.axis.kind === "angle" ? Math.round(target * 10) / 10 : Math.round(target * 100) / 100;
    if (liveJoint(joint.id, "isHeld") === 1 && Number.isFinite(rounded)) targets[joint.id] = rounded;
  }
  return targets;
}

/** Where the held joints stand now, or those among them that are named, as a new pose. */
export function capturePose(jointIds?: readonly string[]): void {
  const { poses } = projectNow();
  const held = heldTargets();
  const targets = jointIds ? Object.fromEntries(jointIds.map((id) => [id, held[id] as number])) : held;
  edit(addPose({ id: newId(), name: `Pose ${poses.length + 1}`, group: "", targets }));
}
