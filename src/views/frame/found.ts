import { byId } from "@core/project";
import { symptoms, symptomsOf } from "@core/symptoms";
import { projectNow } from "@stores/document";
import { command } from "@stores/live";
import { layOver } from "@stores/overBench";
import { select, selectedJointNow } from "@stores/selection";
import { type Action, fixedActions } from "./actions";
import { tabPlaces } from "./places";

/** An action as the palette finds it: by its name, and by other words. */
export interface FoundAction extends Action {
  readonly alike?: readonly string[];
}

/** All that can be done now: also with the joints, poses and routines on the bench, the tabs of stations, and what may be wrong with the selected joint. */
export function actionsNow(): readonly FoundAction[] {
  const project = projectNow();
  const joint = selectedJointNow();
  const card = joint ? byId(project.cards, joint.cardId) : null;
  return [
    ...fixedActions,
    ...(card ? symptomsOf(card) : []).map(
      (id): FoundAction => ({
        id: `wrong-${id}`,
        name: symptoms[id].says,
        alike: symptoms[id].alike.split(" "),
        group: "What is wrong?",
        run: () => layOver({ kind: "symptoms", id }),
      }),
    ),
    ...tabPlaces(card).map(
      ({ words, go }): FoundAction => ({ id: `tab-${words}`, name: words, group: "Go to", run: go }),
    ),
    ...project.joints.map(
      (joint): FoundAction => ({
        id: `joint-${joint.id}`,
        name: `Select ${joint.label}`,
        group: "Joint",
        run: () => select(joint.id),
      }),
    ),
    ...project.poses.map(
      (pose): FoundAction => ({
        id: `pose-${pose.id}`,
        name: `Go to pose ${pose.name}`,
        group: "Pose",
        run: () => command({ kind: "goToPose", poseId: pose.id, moveMs: 1000 }),
      }),
    ),
    ...project.routines.map(
      (routine): FoundAction => ({
        id: `routine-${routine.id}`,
        name: `Play ${routine.name}`,
        group: "Routine",
        run: () => command({ kind: "play", routineId: routine.id }),
      }),
    ),
  ];
}
