import { ok, problem, type Result } from "@core/result";
import type { Mesh } from "@core/shapes";
import type { Figure, Part, Spring, Thing, Tip } from "../figure";
import { byId, type Project } from "../project";
import { addItem, changeItem, type Edit, removeItem } from "./edit";

/** Puts a figure on the bench, in place of the one that its rig has. */
export const setFigure = (figure: Figure, meshes: readonly Mesh[] = []): Edit => ({
  name: "Set figure",
  apply: (project) =>
    ok({
      ...project,
      meshes: [...project.meshes, ...meshes],
      figures: [...project.figures.filter(({ rigId }) => rigId !== figure.rigId), figure],
    }),
});

export const removeFigure = (figureId: string): Edit => ({
  name: "Remove figure",
  apply: (project) => removeItem(project, "figures", figureId),
});

/** Changes something of a figure; `what` names it for undo. */
export const changeFigure = (figureId: string, what: string, change: (figure: Figure) => Figure): Edit => ({
  name: `Change ${what}`,
  mergeKey: `figure:${figureId}:${what}`,
  apply: (project) => changeItem(project, "figures", figureId, change),
});

/** Changes something of a part; `what` names it for undo. */
export const changePart = (figureId: string, partId: string, what: string, change: (part: Part) => Part): Edit => ({
  name: `Change ${what}`,
  mergeKey: `part:${partId}:${what}`,
  apply: (project) => {
    byId(byId(project.figures, figureId).parts, partId);
    return changeItem(project, "figures", figureId, (figure) => ({
      ...figure,
      parts: figure.parts.map((part) => (part.id === partId ? change(part) : part)),
    }));
  },
});

/** Adds parts, with tips on them, and the surfaces that they are made of. */
export const addParts = (
  figureId: string,
  parts: readonly Part[],
  tips: readonly Tip[] = [],
  meshes: readonly Mesh[] = [],
): Edit => ({
  name: parts.length === 1 ? "Add part" : "Add parts",
  apply: (project) =>
    changeItem({ ...project, meshes: [...project.meshes, ...meshes] }, "figures", figureId, (figure) => ({
      ...figure,
      parts: [...figure.parts, ...parts],
      tips: [...figure.tips, ...tips],
    })),
});

/** Removes a part and all that hangs on it. */
export const removePart = (figureId: string, partId: string): Edit => ({
  name: "Remove part",
  apply: (project) =>
    changeItem(project, "figures", figureId, (figure) => {
      const gone = new Set([partId]);
      for (let before = 0; before !== gone.size; ) {
        before = gone.size;
        for (const { id, parentId } of figure.parts) if (parentId !== null && gone.has(parentId)) gone.add(id);
      }
      return { ...figure, parts: figure.parts.filter(({ id }) => !gone.has(id)) };
    }),
});

/** Hangs a part on another, or on the foot of the figure; refused where it would hang on itself. */
export const hangPart = (figureId: string, partId: string, parentId: string | null): Edit => ({
  name: "Hang part",
  apply: (project) => {
    const { parts } = byId(project.figures, figureId);
    for (let at: string | null = parentId; at !== null; at = parts.find(({ id }) => id === at)?.parentId ?? null)
      if (at === partId) return problem("A part cannot hang on itself, nor on what hangs on it.");
    return changePart(figureId, partId, "what it hangs on", (part) => ({ ...part, parentId })).apply(project);
  },
});

/** A list of a figure with an item added, changed or taken out. */
type ListOfFigure = "tips" | "springs";
type ItemOf<Name extends ListOfFigure> = Name extends "tips" ? Tip : Spring;

/** Adds a tip or a spring, or changes the one with its id. */
export const setOnFigure = <Name extends ListOfFigure>(figureId: string, list: Name, item: ItemOf<Name>): Edit => ({
  name: list === "tips" ? "Set tip" : "Set spring",
  mergeKey: `${list}:${item.id}`,
  apply: (project) =>
    changeItem(project, "figures", figureId, (figure) => {
      const items = figure[list] as readonly ItemOf<Name>[];
      const isNew = items.every(({ id }) => id !== item.id);
      return { ...figure, [list]: isNew ? [...items, item] : items.map((one) => (one.id === item.id ? item : one)) };
    }),
});

export const removeFromFigure = (figureId: string, list: ListOfFigure, id: string): Edit => ({
  name: list === "tips" ? "Remove tip" : "Remove spring",
  apply: (project) =>
    changeItem(project, "figures", figureId, (figure) => ({
      ...figure,
      [list]: (figure[list] as readonly { readonly id: string }[]).filter((one) => one.id !== id),
    })),
});

/** Lets two parts touch, or says that they must not. */
export const setMayTouch = (figureId: string, a: string, b: string, may: boolean): Edit => ({
  name: may ? "Let parts touch" : "Keep parts apart",
  apply: (project): Result<Project> =>
    changeItem(project, "figures", figureId, (figure) => {
      const others = figure.mayTouch.filter((pair) => !(pair.includes(a) && pair.includes(b)));
      return { ...figure, mayTouch: may ? [...others, [a, b]] : others };
    }),
});

/** Puts something on the table, or changes what has its id. */
export const setThing = (thing: Thing, what = "thing"): Edit => ({
  name: `Set ${what}`,
  mergeKey: `thing:${thing.id}:${what}`,
  apply: (project) =>
    project.things.some(({ id }) => id === thing.id)
      ? changeItem(project, "things", thing.id, () => thing)
      : addItem(project, "things", thing),
});

export const removeThing = (thingId: string): Edit => ({
  name: "Remove thing",
  apply: (project) => removeItem(project, "things", thingId),
});
