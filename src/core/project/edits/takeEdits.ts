import { problem } from "@core/result";
import type { Take } from "../take";
import { addItem, changeItem, type Edit, readName, removeItem } from "./edit";

/** Keeps a take. Its samples must be at hand under the same id. */
export const addTake = (take: Take): Edit => ({
  name: "Keep take",
  apply: (project) => (take.frames > 0 ? addItem(project, "takes", take) : problem("The take is empty.")),
});

export const renameTake = (takeId: string, text: string): Edit => ({
  name: "Rename take",
  apply: (project) => {
    const name = readName(text);
    return name.ok ? changeItem(project, "takes", takeId, (take) => ({ ...take, name: name.value })) : name;
  },
});

/** Removes a take, and its clips from every routine. */
export const removeTake = (takeId: string): Edit => ({
  name: "Delete take",
  apply: (project) =>
    removeItem(
      {
        ...project,
        routines: project.routines.map((routine) => ({
          ...routine,
          clips: routine.clips.filter((clip) => clip.takeId !== takeId),
        })),
      },
      "takes",
      takeId,
    ),
});
