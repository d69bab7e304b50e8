import { ok, problem, type Result } from "@core/result";
import type { Project } from "../project";

/**
 * One named change of the document. `apply` never alters the project it is given.
 * A refused edit gives a sentence and leaves everything as it was.
 */
export interface Edit {
  /** In the person's words, for the undo button: "Rename pose". */
  readonly name: string;
  /** Edits with the same key that follow each other closely are undone as one (a limit being dragged). */
  readonly mergeKey?: string;
  readonly apply: (project: Project) => Result<Project>;
}

/** Several edits as one step to undo. The first that is refused refuses all. */
export const allOf = (name: string, edits: readonly Edit[], mergeKey?: string): Edit => ({
  name,
  ...(mergeKey !== undefined && { mergeKey }),
  apply: (project) => edits.reduce<Result<Project>>((so, edit) => (so.ok ? edit.apply(so.value) : so), ok(project)),
});

interface Identified {
  readonly id: string;
}
type ListName = { [Key in keyof Project]: Project[Key] extends readonly Identified[] ? Key : never }[keyof Project];
type Item<Name extends ListName> = Project[Name][number];

/** Replaces the one item of a list that has this id by what `change` makes of it. */
export function changeItem<Name extends ListName>(
  project: Project,
  list: Name,
  id: string,
  change: (item: Item<Name>) => Item<Name>,
): Result<Project> {
  const items: readonly Item<Name>[] = project[list];
  const at = items.findIndex((item) => item.id === id);
  const item = items[at];
  if (!item) return problem("That is no longer on the bench.");
  return ok({ ...project, [list]: items.with(at, change(item)) });
}

/** Adds an item at the end of a list, or just after the item with the id `after`. */
export function addItem<Name extends ListName>(project: Project, list: Name, item: Item<Name>): Result<Project> {
  return ok({ ...project, [list]: [...project[list], item] });
}

export function removeItem(project: Project, list: ListName, id: string): Result<Project> {
  return ok({ ...project, [list]: project[list].filter((item) => item.id !== id) });
}

/** Refuses an empty or overlong name; gives it back without blanks at the ends. */
export function readName(text: string): Result<string> {
  const name = text.trim();
  if (!name) return problem("A name needs at least one character.");
  if (name.length > 80) return problem("A name has at most 80 characters.");
  return ok(name);
}
