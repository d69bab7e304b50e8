import { emptyProject, type Project, type ServoCard, schemaVersion } from "@core/project";
import type { Result } from "@core/result";
import { readOwnFile } from "./json";
import { readProject } from "./projectFile";

/** What a file of servo cards says it is. */
export const cardFormat = "vantel-cards";

/** Servo cards, with all that was ever measured, as one JSON file. See docs/file-format.md. */
export function writeCardFile(cards: readonly ServoCard[]): string {
  return `${JSON.stringify({ format: cardFormat, version: schemaVersion, cards }, null, 2)}\n`;
}

/** Reads a file of servo cards of this or an earlier version; a damaged or foreign one is refused in words. */
export function readCardFile(text: string): Result<Project["cards"]> {
  const file = readOwnFile(text, cardFormat, "file of Vantel’s servo cards");
  if (!file.ok) return file;
  // In an otherwise empty project, so that cards are read, brought up and checked by its very rules.
  const read = readProject({ ...emptyProject("cards", "Cards"), cards: file.value.body.cards }, file.value.version);
  return read.ok ? { ok: true, value: read.value.cards } : read;
}
