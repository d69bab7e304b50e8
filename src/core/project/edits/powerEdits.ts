import { ok, problem } from "@core/result";
import { placeOfEnd, withoutLostRuns } from "../lostRuns";
import {
  type BoardPower,
  type CardPower,
  type Rail,
  type Run,
  railSchema,
  runSchema,
  type Supply,
  servoCable,
  supplySchema,
  usualCable,
} from "../power";
import type { Project } from "../project";
import { addItem, allOf, changeItem, type Edit, removeItem } from "./edit";
import { limitSentence } from "./limits";

/** Adds a supply, or changes the one with its id. */
export const setSupply = (supply: Supply): Edit => ({
  name: "Set supply",
  mergeKey: `supply:${supply.id}`,
  apply: (project) => {
    const read = supplySchema.safeParse(supply);
    return read.success ? put(project, "supplies", read.data) : problem(limitSentence(read.error.issues[0]));
  },
});

/** Takes a supply off the bench, with the wires that lead from it and to it. */
export const removeSupply = (supplyId: string): Edit => ({
  name: "Remove supply",
  apply: (project) => removeItem(project, "supplies", supplyId),
});

export const setRail = (rail: Rail): Edit => ({
  name: "Set rail",
  mergeKey: `rail:${rail.id}`,
  apply: (project) => {
    const read = railSchema.safeParse(rail);
    return read.success ? put(project, "rails", read.data) : problem(limitSentence(read.error.issues[0]));
  },
});

export const removeRail = (railId: string): Edit => ({
  name: "Remove rail",
  apply: (project) => removeItem(project, "rails", railId),
});

/** Adds a run of wire, or changes the one with its id. */
export const setRun = (run: Run): Edit => ({
  name: "Set wire",
  mergeKey: `run:${run.id}`,
  apply: (project) => {
    const read = runSchema.safeParse(run);
    if (!read.success) return problem(limitSentence(read.error.issues[0]));
    // Taken all the same, it would be cleared away with the wire that was there before.
    const isLost = withoutLostRuns({ ...project, runs: [read.data] }).runs.length === 0;
    return isLost
      ? problem("What this wire leads to or from is gone. Nothing was changed.")
      : put(project, "runs", read.data);
  },
});

/**
 * Feeds a thing from another place: by the wire that feeds it already, as long and as thick as that is, or else by a usual new one, which gets this id. From null it is fed
 * by nothing any more.
 */
export const feedFrom = (to: Run["to"], from: Run["from"] | null, newRunId: string): Edit => ({
  name: from ? "Feed from elsewhere" : "Feed by nothing",
  apply: (project) => {
    const run = project.runs.find((one) => placeOfEnd(one.to) === placeOfEnd(to) && one.carries !== "ground");
    if (!from) return run ? removeRun(run.id).apply(project) : ok(project);
    const cable = to.kind === "joint" || to.kind === "board" ? servoCable : usualCable;
    return setRun(run ? { ...run, from } : { ...cable, id: newRunId, from, to }).apply(project);
  },
});

export const removeRun = (runId: string): Edit => ({
  name: "Remove wire",
  apply: (project) => removeItem(project, "runs", runId),
});

export const setBoardPower = (boardId: string, power: BoardPower): Edit => ({
  name: "Set what a board needs",
  mergeKey: `board-power:${boardId}`,
  apply: (project) => changeItem(project, "boards", boardId, (board) => ({ ...board, power })),
});

export const setCardPower = (cardId: string, power: CardPower): Edit => ({
  name: "Set what a servo needs",
  mergeKey: `card-power:${cardId}`,
  apply: (project) => changeItem(project, "cards", cardId, (card) => ({ ...card, power })),
});

/** Ticks a line of the switch-on check off; null takes the tick back. */
export const tickSwitchOn = (lineId: string, doneAt: string | null): Edit => ({
  name: doneAt === null ? "Take a tick back" : "Tick off",
  apply: (project) => {
    const others = project.switchOn.filter((one) => one.lineId !== lineId);
    return ok({ ...project, switchOn: doneAt === null ? others : [...others, { lineId, doneAt }] });
  },
});

export const clearSwitchOn = (): Edit => ({
  name: "Begin the switch-on check anew",
  apply: (project) => ok({ ...project, switchOn: [] }),
});

/** Keeps on the card what a meter said, with its date. Nothing was ever seen higher than the highest. */
export const setCurrent = (
  cardId: string,
  field: "idleMa" | "movingMa" | "highestMa",
  ma: number,
  measuredAt: string,
): Edit => ({
  name: "Keep a measured current",
  mergeKey: `current:${cardId}:${field}`,
  apply: (project) => {
    if (!(ma >= 0 && ma <= 200_000)) return problem("A current of 0 to 200 A.");
    return changeItem(project, "cards", cardId, (card) => ({
      ...card,
      currents: {
        ...card.currents,
        [field]: ma,
        highestMa: Math.max(ma, field === "highestMa" ? 0 : (card.currents.highestMa ?? 0)),
        measuredAt,
      },
    }));
  },
});

/** Several things of the wiring as they are to be; what has an id that is there already is changed. */
export interface Wiring {
  readonly supplies?: readonly Supply[];
  readonly rails?: readonly Rail[];
  readonly runs?: readonly Run[];
  readonly lostRunIds?: readonly string[];
  readonly boards?: readonly { readonly boardId: string; readonly power: BoardPower }[];
  readonly cards?: readonly { readonly cardId: string; readonly power: CardPower }[];
}

/** Sets them as one step to undo. */
export const setWiring = (
  name: string,
  { supplies = [], rails = [], runs = [], lostRunIds = [], boards = [], cards = [] }: Wiring,
): Edit =>
  allOf(name, [
    ...lostRunIds.map(removeRun),
    ...supplies.map(setSupply),
    ...rails.map(setRail),
    ...runs.map(setRun),
    ...boards.map(({ boardId, power }) => setBoardPower(boardId, power)),
    ...cards.map(({ cardId, power }) => setCardPower(cardId, power)),
  ]);

function put<Name extends "supplies" | "rails" | "runs">(project: Project, list: Name, item: Project[Name][number]) {
  const items: readonly { readonly id: string }[] = project[list];
  return items.some(({ id }) => id === item.id)
    ? changeItem(project, list, item.id, () => item)
    : addItem(project, list, item);
}
