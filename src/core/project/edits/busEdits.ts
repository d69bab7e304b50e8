import { ok, problem } from "@core/result";
import type { Layout } from "../layout";
import { addItem, changeItem, type Edit, removeItem } from "./edit";
import { addJoint, type NewJoint } from "./wiringEdits";

/** Takes a family into the project, or puts the changed one in its place. */
export const keepLayout = (layout: Layout): Edit => ({
  name: "Change family",
  mergeKey: `layout ${layout.id}`,
  apply: (project) =>
    project.layouts.some(({ id }) => id === layout.id)
      ? changeItem(project, "layouts", layout.id, () => layout)
      : addItem(project, "layouts", layout),
});

/** Takes a family away. One that a servo belongs to stays. */
export const removeLayout = (layoutId: string): Edit => ({
  name: "Remove family",
  apply: (project) => {
    const user = project.cards.find((card) => card.kind === "smart" && card.layoutId === layoutId);
    if (user) return problem(`“${user.label}” is of this family. Remove its card first.`);
    return removeItem(project, "layouts", layoutId);
  },
});

/** All devices of a bus answer at another speed now. */
export const setBusSpeed = (boardId: string, bitsPerS: number): Edit => ({
  name: "Change bus speed",
  apply: (project) =>
    changeItem(project, "boards", boardId, (board) =>
      board.encoding.kind === "bus" ? { ...board, encoding: { ...board.encoding, bitsPerS } } : board,
    ),
});

/** A device of a bus becomes a joint with a card of its own; a simulated one becomes the servo of that card. */
export const addBusJoint = (added: NewJoint, deviceKey: string | null): Edit => ({
  name: "Make a joint",
  apply: (project) => {
    const made = addJoint(added).apply(project);
    if (!made.ok) return made;
    const simulatedDevices = made.value.simulatedDevices.map((device) =>
      device.id === deviceKey ? { ...device, cardId: added.joint.cardId } : device,
    );
    return ok({ ...made.value, simulatedDevices });
  },
});
