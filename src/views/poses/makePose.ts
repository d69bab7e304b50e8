import { addPose, type Pose } from "@core/project";
import { edit, newId } from "@stores/document";
import { posesView } from "@stores/posesView";

/** Adds a pose just after another, and shows it. `name` is what undo calls it. */
export function makePose(pose: Pose, afterId: string, name: string): void {
  const id = newId();
  if (edit(addPose({ ...pose, id }, name, afterId))) posesView.setState({ chosenIds: [id] });
}
