import type { Project, TakeLibrary } from "@core/project";
import { ok, problem, type Result } from "@core/result";
import { type CardsPage, cardPages, type PosesPage, posePages } from "./cardsAndPoses";
import { type CuePage, cuePages } from "./cues";
import { type HornsPage, hornPages } from "./horns";
import { type WiringPage, wiringPages } from "./wiring";

/** Papers by their size, in mm. */
export const papers = {
  A4: { widthMm: 210, heightMm: 297 },
  Letter: { widthMm: 215.9, heightMm: 279.4 },
} as const;
export type Paper = keyof typeof papers;

export const sheetKinds = ["wiring", "cards", "poses", "cues", "protractor", "horns"] as const;
export type SheetKind = (typeof sheetKinds)[number];

/** Page by page, everything that stands on paper, laid out so that nothing runs over its edge. */
export type SheetPage = WiringPage | CardsPage | PosesPage | CuePage | HornsPage | { readonly kind: "protractor" };

/** Between the frame and the edge of the paper; what the title block takes at the foot; the width that both papers have. */
export const marginMm = 12;
export const footMm = 16;
export const widthMm = 180;

/** The height that a page has for what is on it. */
export const roomMm = (paper: Paper): number => papers[paper].heightMm - 2 * marginMm - footMm - 8;

/** The bench's sheets of these kinds, in this order. Fails in words where nothing can be drawn. */
export function benchSheets(
  project: Project,
  takes: TakeLibrary,
  paper: Paper,
  kinds: readonly SheetKind[],
): Result<readonly SheetPage[]> {
  if (project.joints.length === 0) return problem("There is no joint on the bench: there is nothing to draw yet.");
  const room = roomMm(paper);
  const pages: SheetPage[] = [];
  for (const kind of sheetKinds) {
    if (!kinds.includes(kind)) continue;
    if (kind === "wiring") pages.push(...wiringPages(project, room));
    else if (kind === "cards") pages.push(...cardPages(project, room));
    else if (kind === "poses") pages.push(...posePages(project, room));
    else if (kind === "cues") pages.push(...cuePages(project, takes, room));
    else if (kind === "horns") pages.push(...hornPages(project, room));
    else pages.push({ kind });
  }
  return ok(pages);
}
