import { type Control, controlSchema, worksOf } from "@core/controls";
import { byId, isSwitch, type Project } from "@core/project";
import { type DeepReadonly, finite, idSchema, labelSchema, listUpTo, textUpTo } from "@core/schema";
import * as z from "zod/mini";
import { reachOf } from "./reach";

/** All that a pad has to know of a bench to draw itself, and a door to know what a control can move. */
export const padBookSchema = z.strictObject({
  project: labelSchema,
  /** Those that some control can move. */
  joints: listUpTo(
    z.strictObject({ id: idSchema, label: labelSchema, unit: textUpTo(4), low: finite, high: finite }),
    200,
  ),
  sources: listUpTo(z.strictObject({ id: idSchema, isSwitch: z.boolean() }), 200),
  pads: listUpTo(
    z.strictObject({
      id: idSchema,
      label: labelSchema,
      controls: listUpTo(
        z.strictObject({
          control: controlSchema,
          /** What it is called: by its own label, or by what it works. */
          label: textUpTo(80),
          reaches: listUpTo(idSchema, 200),
        }),
        40,
      ),
    }),
    40,
  ),
});
export type PadBook = DeepReadonly<z.infer<typeof padBookSchema>>;
export type BookedPad = PadBook["pads"][number];
export type BookedControl = BookedPad["controls"][number];

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
