import { checkProject } from "../checkProject";
import type { Condition, Mirror } from "../joint";
import { conditionSchema } from "../joint";
import { addItem, changeItem, type Edit, removeItem } from "./edit";
import { limitSentence } from "./limits";

/** Says what becomes of a rig's joints when left and right are exchanged. A joint stands in it once. */
export const setMirror = (rigId: string, mirror: readonly Mirror[]): Edit => ({
  name: "Set left and right",
  apply: (project) => {
    const changed = changeItem(project, "rigs", rigId, (rig) => ({ ...rig, mirror }));
    return changed.ok ? checkProject(changed.value) : changed;
  },
});

/** Adds a condition of joints that must not meet, or changes the one with its id. */
export const setCondition = (condition: Condition): Edit => ({
  name: "Set what must not meet",
  mergeKey: `condition:${condition.id}`,
  apply: (project) => {
    const read = conditionSchema.safeParse(condition);
    if (!read.success) return { ok: false, problem: limitSentence(read.error.issues[0]) };
    const isNew = project.conditions.every((one) => one.id !== condition.id);
    return isNew
      ? addItem(project, "conditions", read.data)
      : changeItem(project, "conditions", condition.id, () => read.data);
  },
});

export const removeCondition = (conditionId: string): Edit => ({
  name: "Remove what must not meet",
  apply: (project) => removeItem(project, "conditions", conditionId),
});
