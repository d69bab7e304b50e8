import { namedBy } from "@core/steps";
import type { Routine } from "./routine";

/** The routines that play one another in a ring, in order, or null where each one ends. */
export function ringIn(routines: readonly Routine[]): readonly Routine[] | null {
  const known = new Map(routines.map((routine) => [routine.id, routine]));
  const done = new Set<string>();
  const walk = (routine: Routine, path: readonly Routine[]): readonly Routine[] | null => {
    const again = path.indexOf(routine);
    if (again >= 0) return path.slice(again);
    if (done.has(routine.id)) return null;
    for (const step of routine.steps) {
      const next = known.get(namedBy(step).routineId ?? "");
      const ring = next && walk(next, [...path, routine]);
      if (ring) return ring;
    }
    done.add(routine.id);
    return null;
  };
  for (const routine of routines) {
    const ring = walk(routine, []);
    if (ring) return ring;
  }
  return null;
}

/** A routine and all that it plays, in the order of the project. */
export function routinesWithin(project: { readonly routines: readonly Routine[] }, routineId: string): Routine[] {
  const ids = new Set<string>();
  const collect = (id: string) => {
    if (ids.has(id)) return;
    ids.add(id);
    for (const step of project.routines.find((one) => one.id === id)?.steps ?? []) {
      const { routineId: next } = namedBy(step);
      if (next !== undefined) collect(next);
    }
  };
  collect(routineId);
  return project.routines.filter((one) => ids.has(one.id));
}
