import type { Joint, Pose, Project, ServoCard } from "@core/project";
import { linesOf, paginate } from "./paginate";

/** Cards as they go into the box with the servo. */
export interface CardsPage {
  readonly kind: "cards";
  readonly cards: readonly { readonly cardId: string; readonly jointId: string | null }[];
}

/** Poses with what they ask of each joint. */
export interface PosesPage {
  readonly kind: "poses";
  readonly poseIds: readonly string[];
}

/** A card is so high without its notes, and by so much higher for each line of them. */
const cardMm = 62;
const noteLineMm = 4.6;
const noteLetters = 110;
/** So many lines of notes stand on paper; the rest stays in Vantel. */
export const mostNoteLines = 30;

/** Notes as far as a sheet has room for them. */
export function notesOnPaper(notes: string): string {
  const lines = notes.split("\n").flatMap((line) => line.match(new RegExp(`.{1,${noteLetters}}`, "gu")) ?? [""]);
  return lines.length <= mostNoteLines
    ? notes
    : `${lines.slice(0, mostNoteLines).join("\n")}\n… and ${lines.length - mostNoteLines} lines more in Vantel`;
}

export function cardPages(project: Project, room: number): readonly CardsPage[] {
  // A card once for each joint that has it; spares at the end.
  const built = project.joints.map((joint: Joint) => ({ cardId: joint.cardId, jointId: joint.id }));
  const used = new Set(built.map(({ cardId }) => cardId));
  const spare = project.cards.filter(({ id }) => !used.has(id)).map(({ id }) => ({ cardId: id, jointId: null }));
  const notes = new Map(project.cards.map((card: ServoCard) => [card.id, card.notes]));
  const height = ({ cardId }: { readonly cardId: string }) =>
    cardMm + noteLineMm * Math.max(0, linesOf(notesOnPaper(notes.get(cardId) ?? ""), noteLetters) - 1);
  return paginate([...built, ...spare], height, room).map((cards) => ({ kind: "cards", cards }));
}

/** Of a pose: its head with the picture, and a line for three joints. */
export const poseHeadMm = 12;
export const poseLineMm = 5;
export const posesInLine = 3;

export function posePages(project: Project, room: number): readonly PosesPage[] {
  const height = ({ targets }: Pose) =>
    poseHeadMm + poseLineMm * Math.ceil(Object.keys(targets).length / posesInLine) + 3;
  return paginate(project.poses, height, room).map((poses) => ({
    kind: "poses",
    poseIds: poses.map(({ id }) => id),
  }));
}
