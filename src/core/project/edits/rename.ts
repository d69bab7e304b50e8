import type { Edit } from "./edit";
import { changeItem, readName } from "./edit";

export const renameProject = (text: string): Edit => ({
  name: "Rename project",
  apply: (project) => {
    const name = readName(text);
    return name.ok ? { ok: true, value: { ...project, name: name.value } } : name;
  },
});

export const renameJoint = (jointId: string, text: string): Edit => ({
  name: "Rename joint",
  apply: (project) => {
    const name = readName(text);
    return name.ok ? changeItem(project, "joints", jointId, (joint) => ({ ...joint, label: name.value })) : name;
  },
});

export const renamePose = (poseId: string, text: string): Edit => ({
  name: "Rename pose",
  apply: (project) => {
    const name = readName(text);
    return name.ok ? changeItem(project, "poses", poseId, (pose) => ({ ...pose, name: name.value })) : name;
  },
});

export const renamePad = (padId: string, text: string): Edit => ({
  name: "Rename pad",
  apply: (project) => {
    const name = readName(text);
    return name.ok ? changeItem(project, "pads", padId, (pad) => ({ ...pad, label: name.value })) : name;
  },
});

export const renameRoutine = (routineId: string, text: string): Edit => ({
  name: "Rename routine",
  apply: (project) => {
    const name = readName(text);
    return name.ok ? changeItem(project, "routines", routineId, (routine) => ({ ...routine, name: name.value })) : name;
  },
});
