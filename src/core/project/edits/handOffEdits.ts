import { ok } from "@core/result";
import { type HandOff, handOffSchema, type OwnLines } from "../handOff";
import type { Edit } from "./edit";
import { limitSentence } from "./limits";

const edited = (name: string, change: (before: HandOff) => HandOff, mergeKey?: string): Edit => ({
  name,
  ...(mergeKey !== undefined && { mergeKey }),
  apply: (project) => {
    const read = handOffSchema.safeParse(change(project.handOff));
    if (!read.success) return { ok: false, problem: limitSentence(read.error.issues[0]) };
    return ok({ ...project, handOff: read.data });
  },
});

export const setHandOffLanguage = (language: HandOff["language"]): Edit =>
  edited("Choose language", (before) => ({ ...before, language }));

export const setHandOffNumbers = (numbers: HandOff["numbers"]): Edit =>
  edited("Choose kind of numbers", (before) => ({ ...before, numbers }));

/** A person's own lines in one language. */
export const setOwnLines = (language: HandOff["language"], lines: Partial<OwnLines>): Edit =>
  edited(
    "Write own lines",
    (before) => ({ ...before, lines: { ...before.lines, [language]: { ...before.lines[language], ...lines } } }),
    `lines:${language}:${Object.keys(lines).join()}`,
  );

/** Leaves things out of what is handed off, or takes them along again. */
export const setLeftOut = (ids: readonly string[], isLeftOut: boolean): Edit =>
  edited(isLeftOut ? "Leave out" : "Take along", (before) => {
    const others = before.leftOut.filter((id) => !ids.includes(id));
    return { ...before, leftOut: isLeftOut ? [...others, ...ids] : others };
  });
