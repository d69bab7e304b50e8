import { type Control, worksOf } from "@core/controls";
import { byId, isSwitch, type Project } from "@core/project";
import type { PadBook } from "./padBookSchema";
import { reachOf } from "./reach";

/** What the pads of a project need to know. */
export function padBookOf(project: Project): PadBook {
  const pads = project.pads.map(({ id, label, controls }) => ({
    id,
    label,
    controls: controls.map((control) => ({
      control,
      label: control.label.trim() || labelOf(project, control),
      reaches: reachOf(project, control),
    })),
  }));
  const booked = pads.flatMap(({ controls }) => controls);
  const reached = new Set(booked.flatMap(({ reaches }) => reaches));
  const moved = new Set(booked.flatMap(({ control }) => worksOf(control).sourceIds ?? []));
  return {
    project: project.name,
    joints: project.joints
      .filter(({ id }) => reached.has(id))
      .map(({ id, label, axis }) =>
        axis.kind === "angle"
          ? { id, label, unit: "°", low: axis.travel.low, high: axis.travel.high }
          : { id, label, unit: "", low: -axis.limit, high: axis.limit },
      ),
    sources: project.sources
      .filter(({ id }) => moved.has(id))
      .map((source) => ({ id: source.id, isSwitch: isSwitch(source) })),
    pads,
  };
}

/** What a control is called after what it works. */
export function labelOf(project: Project, control: Control): string {
  const { sourceIds = [], poseId, routineId, jointId } = worksOf(control);
  if (poseId !== undefined) return byId(project.poses, poseId).name;
  if (routineId !== undefined) return byId(project.routines, routineId).name;
  if (jointId !== undefined) return byId(project.joints, jointId).label;
  const [first] = sourceIds;
  if (first === undefined) return "Stop";
  const { label } = byId(project.sources, first);
  return control.kind === "stick" ? label.replace(/, across$/, "") : label;
}
