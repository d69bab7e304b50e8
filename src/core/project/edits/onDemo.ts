import { demoProject } from "@core/demo";
import type { Edit, Project } from "@core/project";
import { applyEdit } from "./applyEdit";

/** For tests of edits only: the night greenhouse, and what becomes of an edit on it. */
export const demo = demoProject();

/** The project after an edit that must be made. */
export function done(edit: Edit, project: Project = demo): Project {
  const changed = applyEdit(edit, project);
  if (!changed.ok) throw new Error(changed.problem);
  return changed.value;
}

/** The sentence with which an edit is refused. */
export function refusal(edit: Edit, project: Project = demo): string {
  const changed = applyEdit(edit, project);
  return changed.ok ? "it was made" : changed.problem;
}
