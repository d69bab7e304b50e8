import { ok, problem, type Result } from "@core/result";
import { checkProject } from "../checkProject";
import { byId, type Project } from "../project";
import { type Calibration, type Check, type ServoCard, servoCardSchema } from "../servoCard";
import { addItem, changeItem, type Edit, readName, removeItem } from "./edit";
import { limitSentence } from "./limits";

/** Changes a card as long as it stays a possible one that fits where it is built in. */
function changeCard(project: Project, cardId: string, change: (card: ServoCard) => ServoCard): Result<Project> {
  const read = servoCardSchema.safeParse(change(byId(project.cards, cardId)));
  if (!read.success) return problem(limitSentence(read.error.issues[0]));
  const changed = changeItem(project, "cards", cardId, () => read.data);
  return changed.ok ? checkProject(changed.value) : changed;
}

/**
 * Changes one thing on a card. `what` names it for undo ("torque"); several changes of the same thing in a row undo as one.
 * Numbers and texts that no servo can have are refused in words.
 */
export const editCard = (cardId: string, what: string, change: (card: ServoCard) => ServoCard): Edit => ({
  name: `Change ${what}`,
  mergeKey: `card:${cardId}:${what}`,
  apply: (project) => changeCard(project, cardId, change),
});

export const renameCard = (cardId: string, text: string): Edit => ({
  name: "Rename card",
  apply: (project) => {
    const name = readName(text);
    return name.ok ? changeItem(project, "cards", cardId, (card) => ({ ...card, label: name.value })) : name;
  },
});

export const addCards = (cards: readonly ServoCard[]): Edit => ({
  name: cards.length === 1 ? "Add card" : `Add ${cards.length} cards`,
  apply: (project) => checkProject({ ...project, cards: [...project.cards, ...cards] }),
});

/**
 * A card for a sister servo: what its data sheet says is the same; what was measured on this very servo is not copied, since no two
 * agree.
 */
export const copyCard = (cardId: string, newId: string): Edit => ({
  name: "Copy card",
  apply: (project) => {
    const card = byId(project.cards, cardId);
    const unmeasured = {
      id: newId,
      label: sisterLabel(
        card.label,
        project.cards.map((one) => one.label),
      ),
      endStops: { low: null, high: null },
      currents: { idleMa: null, movingMa: null, highestMa: null },
      standing: "inUse",
      notes: "",
      calibrations: [],
      checks: [],
    } as const;
    return addItem(
      project,
      "cards",
      card.kind === "continuous"
        ? { ...card, ...unmeasured }
        : { ...card, ...unmeasured, feedback: card.feedback && { ...card.feedback, points: [] } },
    );
  },
});

function sisterLabel(label: string, taken: readonly string[]): string {
  const stem = label.replace(/ \d+$/, "").slice(0, 70);
  for (let count = 2; ; count += 1) if (!taken.includes(`${stem} ${count}`)) return `${stem} ${count}`;
}

/** Takes a card out of the file. Refused while its servo is built into a joint. */
export const removeCard = (cardId: string): Edit => ({
  name: "Remove card",
  apply: (project) => {
    const joint = project.joints.find((one) => one.cardId === cardId);
    if (joint)
      return problem(`This servo is built into ${joint.label}. Take it out of there first, or retire its card.`);
    const left = removeItem(project, "cards", cardId);
    return left.ok
      ? ok({ ...left.value, simulated: left.value.simulated.filter((truth) => truth.cardId !== cardId) })
      : left;
  },
});

/** Puts a calibration on the card as the one in force. The earlier ones stay; a check that was due by hand is done with. */
export const addCalibration = (cardId: string, calibration: Calibration): Edit => ({
  name: "Save calibration",
  apply: (project) =>
    changeCard(project, cardId, (card) => ({
      ...card,
      standing: card.standing === "checkDue" ? "inUse" : card.standing,
      calibrations: [...card.calibrations, calibration],
    })),
});

/** Takes one calibration off the card; the one before it is in force again. */
export const removeCalibration = (cardId: string, calibrationId: string): Edit => ({
  name: "Remove calibration",
  apply: (project) =>
    changeItem(project, "cards", cardId, (card) => ({
      ...card,
      calibrations: card.calibrations.filter((made) => made.id !== calibrationId),
    })),
});

/** Keeps the error table of a checking run. A check that was due by hand is done with. */
export const addCheck = (cardId: string, check: Check): Edit => ({
  name: "Save check",
  apply: (project) =>
    changeCard(project, cardId, (card) => ({
      ...card,
      standing: card.standing === "checkDue" ? "inUse" : card.standing,
      checks: [...card.checks, check],
    })),
});

/** Writes down where the servo itself stops turning, in set points; null where it was not found. */
export const setEndStops = (
  cardId: string,
  low: number | null,
  high: number | null,
  plusMinus?: { readonly low: number; readonly high: number },
): Edit => ({
  name: "Save end stops",
  apply: (project) =>
    low !== null && high !== null && low >= high
      ? problem("The lower end stop must be below the higher one.")
      : changeItem(project, "cards", cardId, (card) => ({
          ...card,
          endStops: { low, high, ...(plusMinus && { plusMinus }) },
        })),
});

/** Sets the hard window: no set point outside it ever leaves the gate. */
export const setWindow = (cardId: string, low: number, high: number): Edit => ({
  name: "Set hard window",
  mergeKey: `window:${cardId}`,
  apply: (project) =>
    low < high
      ? changeItem(project, "cards", cardId, (card) => ({ ...card, window: { low, high } }))
      : problem("The low end of the window must be below the high end."),
});
