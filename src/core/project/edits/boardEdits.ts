import type { Encoding } from "@core/encodings";
import { problem, type Result } from "@core/result";
import type { Wire } from "@core/wire";
import type { Board } from "../board";
import { boardSchema } from "../board";
import { checkProject } from "../checkProject";
import { byId, type Project } from "../project";
import { changeItem, type Edit } from "./edit";
import { limitSentence } from "./limits";

/** Changes a board as long as it stays a possible one that can drive what is wired to it. */
function changeBoard(project: Project, boardId: string, change: (board: Board) => Board): Result<Project> {
  const read = boardSchema.safeParse(change(byId(project.boards, boardId)));
  if (!read.success) return problem(limitSentence(read.error.issues[0]));
  const changed = changeItem(project, "boards", boardId, () => read.data);
  return changed.ok ? checkProject(changed.value) : changed;
}

/** Changes how a board makes its signals. Its joints keep their targets; the next frame is made the new way. */
export const setEncoding = (boardId: string, encoding: Encoding): Edit => ({
  name: "Change board",
  mergeKey: `encoding:${boardId}:${encoding.kind}`,
  apply: (project) => changeBoard(project, boardId, (board) => ({ ...board, encoding })),
});

/** Sets the frame rate of one group of a board's channels. */
export const setFrameHz = (boardId: string, group: number, frameHz: number): Edit => ({
  name: "Set frame rate",
  mergeKey: `frameHz:${boardId}:${group}`,
  apply: (project) =>
    changeBoard(project, boardId, (board) => ({ ...board, frameHz: board.frameHz.with(group, frameHz) })),
});

/** Divides a board's channels into so many groups with a frame rate of their own; new groups take the first one's. */
export const setFrameGroups = (boardId: string, groups: number): Edit => ({
  name: "Divide channels",
  apply: (project) =>
    changeBoard(project, boardId, (board) => ({
      ...board,
      frameHz: Array.from(
        { length: Math.min(groups, board.channels) },
        (_, at) => board.frameHz[at] ?? board.frameHz[0] ?? 50,
      ),
    })),
});

/** Says by which wire a board is reached. Whether it is opened, each computer says for itself. */
export const setWire = (boardId: string, link: Wire): Edit => ({
  name: "Change wire",
  apply: (project) => changeBoard(project, boardId, (board) => ({ ...board, link })),
});

/** Takes over what a board says of itself: how many channels it has, their frames, and how it makes its signals. */
export const describeBoard = (boardId: string, said: Pick<Board, "channels" | "frameHz" | "encoding">): Edit => ({
  name: "Take over what the board says",
  apply: (project) =>
    changeBoard(project, boardId, (board) => ({
      ...board,
      channels: said.channels,
      frameHz: [...said.frameHz],
      encoding: said.encoding,
    })),
});
