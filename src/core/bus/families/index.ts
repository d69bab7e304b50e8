import type { Layout, Project } from "@core/project";
import { heron } from "./heron";
import { kestrel } from "./kestrel";

export { heron, kestrel };

/** The families that every bench knows. */
export const shippedLayouts: readonly Layout[] = [kestrel, heron];

/** All the families of a project: its own, and those that every bench knows. */
export const layoutsOf = (project: Pick<Project, "layouts">): readonly Layout[] => [
  ...shippedLayouts,
  ...project.layouts,
];

/** The family with this id; null where the project does not know it. */
export const layoutById = (project: Pick<Project, "layouts">, id: string): Layout | null =>
  layoutsOf(project).find((layout) => layout.id === id) ?? null;
