import { type Control, worksOf } from "@core/controls";
import type { Project } from "./project";

/** The same without what works something that is not on the bench any more. */
export function withoutLostControls(project: Project): Project {
  const idsOf = (items: readonly { readonly id: string }[]) => new Set(items.map(({ id }) => id));
  const [sources, poses, routines, joints] = [
    idsOf(project.sources),
    idsOf(project.poses),
    idsOf(project.routines),
    idsOf(project.joints),
  ];
  const isWhole = (control: Control) => {
    const { sourceIds = [], poseId, routineId, jointId } = worksOf(control);
    if (poseId !== undefined && !poses.has(poseId)) return false;
    if (routineId !== undefined && !routines.has(routineId)) return false;
    if (jointId !== undefined && !joints.has(jointId)) return false;
    return sourceIds.every((id) => sources.has(id));
  };
  const { pads, outside } = project;
  const isOutsideWhole =
    outside.poseIds.every((id) => poses.has(id)) && outside.routineIds.every((id) => routines.has(id));
  const arePadsWhole = pads.every((pad) => pad.controls.every(isWhole));
  if (isOutsideWhole && arePadsWhole) return project;
  return {
    ...project,
    pads: arePadsWhole ? pads : pads.map((pad) => ({ ...pad, controls: pad.controls.filter(isWhole) })),
    outside: isOutsideWhole
      ? outside
      : {
          ...outside,
          poseIds: outside.poseIds.filter((id) => poses.has(id)),
          routineIds: outside.routineIds.filter((id) => routines.has(id)),
        },
  };
}
