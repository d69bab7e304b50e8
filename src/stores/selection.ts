import type { Joint, Project } from "@core/project";
import { useStore } from "zustand";
import { createStore } from "zustand/vanilla";
import { documentStore, useProject } from "./document";

const place = "vantel.joint";

/** The joint that every station is about. */
const selectionStore = createStore<{ readonly jointId: string | null }>()(() => ({
  jointId: typeof sessionStorage === "undefined" ? null : sessionStorage.getItem(place),
}));

export function select(jointId: string): void {
  selectionStore.setState({ jointId });
  sessionStorage.setItem(place, jointId);
}

/** The selected joint of this project; its first joint while none is selected, null when it has none. */
const selectedIn = (project: Project, jointId: string | null): Joint | null =>
  project.joints.find((joint) => joint.id === jointId) ?? project.joints[0] ?? null;

export function useSelectedJoint(): Joint | null {
  const jointId = useStore(selectionStore, (selection) => selection.jointId);
  return useProject((project) => selectedIn(project, jointId));
}

/** The selected joint at the moment of an event. */
export function selectedJointNow(): Joint | null {
  const { project } = documentStore.getState();
  return project && selectedIn(project, selectionStore.getState().jointId);
}
