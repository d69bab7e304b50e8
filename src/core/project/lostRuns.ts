import type { Run } from "./power";
import type { Project } from "./project";

/** Where a run begins or ends, as one word. */
export const placeOfEnd = ({ kind, id }: Run["from"] | Run["to"]): string => `${kind}:${id}`;

/** The same without runs of wire whose ends are not on the bench any more, and without pins of boards that are gone. */
export function withoutLostRuns(project: Project): Project {
  const { supplies, rails, runs, boards, joints } = project;
  if (supplies.length === 0 && runs.length === 0) return project;
  const kept = supplies.filter(({ gives }) => gives.kind !== "pin" || boards.some(({ id }) => id === gives.boardId));
  const there = new Set(
    [
      ["supply", kept],
      ["rail", rails],
      ["board", boards],
      ["joint", joints],
    ].flatMap(([kind, items]) => (items as readonly { readonly id: string }[]).map(({ id }) => `${kind}:${id}`)),
  );
  const whole = runs.filter(({ from, to }) => there.has(placeOfEnd(from)) && there.has(placeOfEnd(to)));
  if (kept.length === supplies.length && whole.length === runs.length) return project;
  return { ...project, supplies: kept, runs: whole };
}

/** A ring of runs, as the places on it; null where every run leads away from a supply. A pin of a board hangs on what feeds the board. */
export function ringOfRuns({ supplies, runs }: Pick<Project, "supplies" | "runs">): readonly string[] | null {
  const before = new Map<string, string[]>();
  const add = (to: string, from: string) => before.set(to, [...(before.get(to) ?? []), from]);
  for (const { from, to, carries } of runs) if (carries !== "ground") add(placeOfEnd(to), placeOfEnd(from));
  for (const { id, gives } of supplies) if (gives.kind === "pin") add(`supply:${id}`, `board:${gives.boardId}`);
  const done = new Set<string>();
  const walk = (place: string, path: readonly string[]): readonly string[] | null => {
    if (path.includes(place)) return [...path.slice(path.indexOf(place)), place];
    if (done.has(place)) return null;
    for (const next of before.get(place) ?? []) {
      const ring = walk(next, [...path, place]);
      if (ring) return ring;
    }
    done.add(place);
    return null;
  };
  for (const place of before.keys()) {
    const ring = walk(place, []);
    if (ring) return ring;
  }
  return null;
}
