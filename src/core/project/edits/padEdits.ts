import type { Control } from "@core/controls";
import { ok, problem } from "@core/result";
import type { Lead } from "../lead";
import { checkLead } from "../leadFlow";
import type { Outside, Pad } from "../pad";
import { byId, type Project } from "../project";
import type { Source } from "../source";
import { addItem, changeItem, type Edit, removeItem } from "./edit";

/** A ready pad with the sources and leads that it needs and that are not there yet. */
export const addPad = (pad: Pad, sources: readonly Source[] = [], leads: readonly Lead[] = []): Edit => ({
  name: "Add pad",
  apply: (project) => {
    const wired: Project = {
      ...project,
      sources: [...project.sources, ...sources],
      leads: [...project.leads, ...leads],
    };
    for (const lead of leads) {
      const fits = checkLead(lead, wired);
      if (!fits.ok) return fits;
    }
    return addItem(wired, "pads", pad);
  },
});

export const removePad = (padId: string): Edit => ({
  name: "Remove pad",
  apply: (project) => removeItem(project, "pads", padId),
});

const changeControls = (
  name: string,
  padId: string,
  change: (controls: Pad["controls"]) => Pad["controls"],
  mergeKey?: string,
): Edit => ({
  name,
  ...(mergeKey !== undefined && { mergeKey }),
  apply: (project) => changeItem(project, "pads", padId, (pad) => ({ ...pad, controls: change(pad.controls) })),
});

export const addControl = (padId: string, control: Control): Edit => ({
  name: "Add control",
  apply: (project) => {
    const { controls } = byId(project.pads, padId);
    if (controls.length >= 40) return problem("A pad has room for 40 controls. Begin another pad.");
    return changeItem(project, "pads", padId, (pad) => ({ ...pad, controls: [...pad.controls, control] }));
  },
});

/** Changes one thing of a control; `what` names it for undo. */
export const changeControl = (padId: string, what: string, control: Control): Edit =>
  changeControls(
    `Change ${what}`,
    padId,
    (controls) => controls.map((one) => (one.id === control.id ? control : one)),
    `control:${control.id}:${what}`,
  );

export const removeControl = (padId: string, controlId: string): Edit =>
  changeControls("Remove control", padId, (controls) => controls.filter(({ id }) => id !== controlId));

/** Puts a control before or behind its neighbour. */
export const moveControl = (padId: string, controlId: string, by: 1 | -1): Edit =>
  changeControls("Move control", padId, (controls) => {
    const at = controls.findIndex(({ id }) => id === controlId);
    const control = controls[at];
    const to = Math.min(Math.max(at + by, 0), controls.length - 1);
    return control ? controls.toSpliced(at, 1).toSpliced(to, 0, control) : controls;
  });

/** Sets what others may ask of this bench by messages. */
export const setOutside = (what: string, change: Partial<Outside>): Edit => ({
  name: `Set ${what}`,
  mergeKey: `outside:${what}`,
  apply: (project) => ok({ ...project, outside: { ...project.outside, ...change } }),
});
