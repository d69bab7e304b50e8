import type { Routine } from "./routine";

const mostKept = 32;

/** The texts that were written last, by the routine's id. */
const kept = new Map<string, { readonly routine: Routine; readonly text: string }>();

/**
 * A routine as text. An hour of moves goes over to the bench worker, to the check and into the database after each edit: it is written once for
 * all of them, and a text is handed over in no time, where a copy of its structure holds up the page each time.
 */
export function textOfRoutine(routine: Routine): string {
  const known = kept.get(routine.id);
  if (known?.routine === routine) return known.text;
  const text = JSON.stringify(routine);
  kept.delete(routine.id);
  kept.set(routine.id, { routine, text });
  if (kept.size > mostKept) kept.delete(kept.keys().next().value as string);
  return text;
}

/** The routine of a text that `textOfRoutine` wrote. Throws where it is no text of that kind. */
export const routineOfText = (text: string): Routine => JSON.parse(text) as Routine;
