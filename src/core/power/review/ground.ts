import { byId, type Project, placeOfEnd, type Run, servoCable } from "@core/project";
import { placeLabel } from "../net";
import { type Concern, few, type Rule } from "./rule";

/** Grounds that are missing, or that do not meet. */
export const ground: Rule = {
  name: "Common ground",
  why: "A signal is a voltage against ground. Where the grounds of board and servo do not meet, the servo hears nothing, or the current of its motor goes back through the signal wire and the board.",
  find: ({ project, net }) => {
    const broken = project.runs
      .filter(({ carries }) => carries === "supply")
      .map((run): Concern => {
        const name = placeLabel(project, run.to);
        return {
          weight: "harm",
          about: { kind: "run", id: run.id },
          sentence: `The wire from ${placeLabel(project, run.from)} to ${name} has no ground: what ${name} draws looks for another way back.`,
          advice: null,
          waysOut: [{ words: "Lay its ground beside it", wiring: { runs: [{ ...run, carries: "both" }] } }],
        };
      });
    const groundOf = grounds(project);
    const apart = new Map<string, { boardId: string; labels: string[]; from: Run["from"] }>();
    for (const [at, place] of net.places.entries()) {
      const run = net.runs[at];
      if (place.kind !== "joint" || !run || run.carries === "supply" || !net.isFed[at]) continue;
      const { boardId, label } = byId(project.joints, place.id);
      const [mine, boards] = [groundOf(`joint:${place.id}`), groundOf(`board:${boardId}`)];
      if (mine === boards) continue;
      const group = apart.get(`${mine} ${boardId}`) ?? { boardId, labels: [], from: run.from };
      group.labels.push(label);
      apart.set(`${mine} ${boardId}`, group);
    }
    const missing = [...apart.values()].map(({ boardId, labels, from }): Concern => {
      const board = byId(project.boards, boardId);
      const link: Run = {
        ...servoCable,
        id: `ground-${from.id}-${boardId}`.slice(0, 64),
        from,
        to: { kind: "board", id: boardId },
        areaMm2: 0.33,
        connector: "headerPin",
        carries: "ground",
      };
      return {
        weight: "fails",
        about: { kind: "board", id: boardId },
        sentence: `The ground of ${board.label} does not meet that of ${few(labels)}, which ${labels.length > 1 ? "listen" : "listens"} to it.`,
        advice: null,
        waysOut: [{ words: `A ground from ${placeLabel(project, from)} to ${board.label}`, wiring: { runs: [link] } }],
      };
    });
    return [...broken, ...missing];
  },
};

/** The name of the ground that each place is on: places whose grounds are joined have the same. */
function grounds({ supplies, runs }: Project): (place: string) => string {
  const over = new Map<string, string>();
  const top = (place: string): string => {
    const next = over.get(place);
    return next === undefined ? place : top(next);
  };
  const join = (a: string, b: string) => {
    const [one, other] = [top(a), top(b)];
    if (one !== other) over.set(one, other);
  };
  for (const { from, to, carries } of runs) if (carries !== "supply") join(placeOfEnd(from), placeOfEnd(to));
  for (const { id, gives } of supplies) if (gives.kind === "pin") join(`supply:${id}`, `board:${gives.boardId}`);
  return top;
}
