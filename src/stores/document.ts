import { applyEdit, type Edit, type Project } from "@core/project";
import { nanoid } from "nanoid";
import { temporal } from "zundo";
import { useStore } from "zustand";
import { createStore } from "zustand/vanilla";
import { notify } from "./notices";

interface Document {
  /** Null until the bench has been opened. */
  readonly project: Project | null;
  /** The edit that made the project what it is: what an undo would take back. */
  readonly editName: string;
}

/** Edits with the same key that follow each other this closely are undone as one. */
const mergeWithinMs = 1000;
let lastKey: string | undefined;
let lastEditMs = Number.NEGATIVE_INFINITY;
/** While a pointer is held down, a drag goes on, however long it rests: one undo takes all of it back. */
let dragSinceMs: number | null = null;

/** A pointer went down, or came up: what is edited meanwhile with one key is one edit. */
export function dragging(isDown: boolean): void {
  dragSinceMs = isDown ? performance.now() : null;
}

/** The one document on the bench, with its past and future. Only edits change it. */
export const documentStore = createStore<Document>()(
  temporal((): Document => ({ project: null, editName: "" }), {
    limit: 500,
    equality: (past, current) => past.project === current.project,
  }),
);
const history = documentStore.temporal;

/** Puts a project on the bench, with no past. */
export function layOut(project: Project): void {
  history.getState().pause();
  documentStore.setState({ project, editName: "" });
  history.getState().clear();
  history.getState().resume();
  lastKey = undefined;
}

/** Makes an edit, and gives whether it was taken. A refused one changes nothing, and says why as a notice. */
export function edit(change: Edit): boolean {
  const refusal = editForField(change);
  if (refusal !== null) notify(refusal, "warning");
  return refusal === null;
}

/** Makes an edit for a field that shows by itself why it was refused: gives that sentence, or null when the edit was taken. */
export function editForField(change: Edit): string | null {
  const { project } = documentStore.getState();
  if (!project) return null;
  const changed = applyEdit(change, project);
  if (!changed.ok) return changed.problem;
  if (changed.value === project) return null;
  const nowMs = performance.now();
  const isOneDrag = dragSinceMs !== null && lastEditMs >= dragSinceMs;
  const isMerged =
    change.mergeKey !== undefined && change.mergeKey === lastKey && (isOneDrag || nowMs - lastEditMs < mergeWithinMs);
  lastKey = change.mergeKey;
  lastEditMs = nowMs;
  if (isMerged) history.getState().pause();
  documentStore.setState({ project: changed.value, editName: change.name });
  if (isMerged) history.getState().resume();
  return null;
}

export function undo(): void {
  lastKey = undefined;
  history.getState().undo();
}

export function redo(): void {
  lastKey = undefined;
  history.getState().redo();
}

/** What undo and redo would do now, by name; null where there is nothing to undo or redo. */
export function useHistory(): { readonly undoes: string | null; readonly redoes: string | null } {
  const editName = useStore(documentStore, (document) => document.editName);
  const canUndo = useStore(history, (past) => past.pastStates.length > 0);
  const redoes = useStore(history, (past) => past.futureStates.at(-1)?.editName ?? null);
  return { undoes: canUndo ? editName : null, redoes };
}

/** Reads a part of the project; the bench must be open (see `useIsOpen`). */
export function useProject<Part>(select: (project: Project) => Part): Part {
  return useStore(documentStore, ({ project }) => {
    if (!project) throw new Error("The bench is not open yet.");
    return select(project);
  });
}

export const useIsOpen = (): boolean => useStore(documentStore, ({ project }) => project !== null);

/** The project as it is now, for the moment of an event. */
export function projectNow(): Project {
  const { project } = documentStore.getState();
  if (!project) throw new Error("The bench is not open yet.");
  return project;
}

export const newId = (): string => nanoid(10);
