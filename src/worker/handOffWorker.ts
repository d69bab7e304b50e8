import { type HandedOff, handOff, type ReadBack, readBack } from "@core/handOff";
import type { Project, TakeData } from "@core/project";
import type { Result } from "@core/result";

export interface HandOffOrder {
  readonly project: Project;
  readonly takes: readonly TakeData[];
  /** Code to be read back; null where it is to be written. */
  readonly text: string | null;
}

export type HandOffNews =
  | { readonly kind: "written"; readonly handed: Result<HandedOff> }
  | { readonly kind: "read"; readonly back: Result<ReadBack> };

/** Writes what is handed off, and reads it back, apart from the page and from the bench: hours of takes are many lines. */
self.onmessage = ({ data: { project, takes, text } }: MessageEvent<HandOffOrder>) => {
  const library = new Map(takes.map((take) => [take.id, take]));
  const news: HandOffNews =
    text === null
      ? { kind: "written", handed: handOff(project, library) }
      : { kind: "read", back: readBack(project, library, text) };
  self.postMessage(news);
};
