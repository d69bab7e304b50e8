import { owner } from "@core/engine";
import type { Project } from "@core/project";

/** Who has a joint, in words; a lead by the name of its source where the project is given. */
export function ownerWords(code: number, isHeld: boolean, project?: Project): string {
  if (!isHeld) return "limp";
  if (code >= owner.lead) {
    const lead = project?.leads[code - owner.lead];
    return project?.sources.find((one) => one.id === lead?.sourceId)?.label ?? "input";
  }
  return code === owner.routine ? "routine" : code === owner.hand ? "hand" : "held";
}
