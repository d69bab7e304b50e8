import { ok, problem, type Result } from "@core/result";
import { withoutJoint } from "@core/steps";
import type { Board } from "../board";
import { boardSchema } from "../board";
import { checkProject } from "../checkProject";
import type { Joint, Rig } from "../joint";
import { jointSchema } from "../joint";
import { jointOfLead } from "../lead";
import type { Project } from "../project";
import type { ServoCard } from "../servoCard";
import { changeItem, type Edit, readName, removeItem } from "./edit";
import { limitSentence } from "./limits";

/** A joint with whatever is new about it: its rig, its board or its servo's card may be added in the same step. */
export interface NewJoint {
  readonly joint: Joint;
  readonly rig?: Rig;
  readonly board?: Board;
  readonly card?: ServoCard;
}

/** Builds a servo in: one step to undo, however much of it is new. Refused when the channel or the servo is taken already. */
export const addJoint = ({ joint, rig, board, card }: NewJoint): Edit => ({
  name: "Add joint",
  apply: (project) => {
    const read = jointSchema.safeParse(joint);
    if (!read.success) return problem(limitSentence(read.error.issues[0]));
    return checked({
      ...project,
      rigs: rig ? [...project.rigs, rig] : project.rigs,
      boards: board ? [...project.boards, board] : project.boards,
      cards: card ? [...project.cards, card] : project.cards,
      joints: [...project.joints, read.data],
    });
  },
});

/** Wires a joint to another board's channel, or the other one of its own. */
export const rewireJoint = (jointId: string, boardId: string, channel: number): Edit => ({
  name: "Rewire joint",
  apply: (project) => {
    const changed = changeItem(project, "joints", jointId, (joint) => ({ ...joint, boardId, channel }));
    return changed.ok ? checked(changed.value) : changed;
  },
});

/** Puts another servo into a joint; the joint's limits stay, its angles follow the new servo's card. */
export const changeServo = (jointId: string, cardId: string): Edit => ({
  name: "Change servo",
  apply: (project) => {
    const changed = changeItem(project, "joints", jointId, (joint) => ({ ...joint, cardId }));
    return changed.ok ? checked(changed.value) : changed;
  },
});

/** Takes a joint off the bench, with its leads, and its place in all poses, routines and takes. The servo's card stays in the file. */
export const removeJoint = (jointId: string): Edit => ({
  name: "Remove joint",
  apply: (project) => {
    const left = removeItem(project, "joints", jointId);
    if (!left.ok) return left;
    const takes = project.takes.flatMap((take) => {
      const jointIds = take.jointIds.filter((id) => id !== jointId);
      return jointIds.length > 0 ? [{ ...take, jointIds }] : [];
    });
    return ok({
      ...left.value,
      leads: project.leads.filter((lead) => jointOfLead(lead) !== jointId),
      poses: project.poses.map((pose) => ({ ...pose, targets: without(pose.targets, jointId) })),
      rigs: project.rigs.map((rig) => ({
        ...rig,
        mirror: rig.mirror.filter((one) =>
          one.kind === "pair" ? one.leftId !== jointId && one.rightId !== jointId : one.jointId !== jointId,
        ),
      })),
      conditions: project.conditions.filter((one) => one.while.jointId !== jointId && one.stays.jointId !== jointId),
      takes,
      routines: project.routines.map((routine) => ({
        ...routine,
        steps: routine.steps.map((step) => withoutJoint(step, jointId)),
        lanes: routine.lanes.filter((lane) => lane.jointId !== jointId),
        clips: routine.clips.filter((clip) => takes.some((take) => take.id === clip.takeId)),
      })),
    });
  },
});

/** Adds a board with nothing wired to it. */
export const addBoard = (board: Board): Edit => ({
  name: "Add board",
  apply: (project) => {
    const read = boardSchema.safeParse(board);
    return read.success
      ? checked({ ...project, boards: [...project.boards, read.data] })
      : problem(limitSentence(read.error.issues[0]));
  },
});

export const renameBoard = (boardId: string, text: string): Edit => ({
  name: "Rename board",
  apply: (project) => {
    const name = readName(text);
    return name.ok ? changeItem(project, "boards", boardId, (board) => ({ ...board, label: name.value })) : name;
  },
});

/** Takes a board off the bench. Refused while something is wired to it. */
export const removeBoard = (boardId: string): Edit => ({
  name: "Remove board",
  apply: (project) => {
    const wired = project.joints.filter((joint) => joint.boardId === boardId);
    return wired.length > 0
      ? problem(`${wired.map((joint) => joint.label).join(", ")} ${wired.length > 1 ? "are" : "is"} wired to it.`)
      : removeItem(withoutFeed(project, boardId), "boards", boardId);
  },
});

/** Lines that it sent may come from any; what lay beside it on the table goes with it. */
const withoutFeed = (project: Project, boardId: string): Project => ({
  ...project,
  simulatedDevices: project.simulatedDevices.filter((device) => device.boardId !== boardId),
  sources: project.sources.map((source) =>
    source.origin.kind === "line" && source.origin.boardId === boardId
      ? { ...source, origin: { ...source.origin, boardId: null } }
      : source,
  ),
});

export const renameRig = (rigId: string, text: string): Edit => ({
  name: "Rename rig",
  apply: (project) => {
    const name = readName(text);
    return name.ok ? changeItem(project, "rigs", rigId, (rig) => ({ ...rig, label: name.value })) : name;
  },
});

/** Takes a rig off the bench. Refused while it has joints. */
export const removeRig = (rigId: string): Edit => ({
  name: "Remove rig",
  apply: (project) =>
    project.joints.some((joint) => joint.rigId === rigId)
      ? problem("This rig still has joints.")
      : removeItem(project, "rigs", rigId),
});

function without(values: Readonly<Record<string, number>>, id: string): Readonly<Record<string, number>> {
  const { [id]: _, ...others } = values;
  return others;
}

const checked = (project: Project): Result<Project> => checkProject(project);
