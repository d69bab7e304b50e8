import { type HandedOff, handOff } from "@core/handOff";
import type { Project, TakeData } from "@core/project";
import type { Result } from "@core/result";

export interface HandOffOrder {
  readonly project: Project;
  /** Samples that this worker has not got yet. */
  readonly takes: readonly TakeData[];
}

const takes = new Map<string, TakeData>();

/** Writes what is handed off apart from the page and from the bench: hours of takes are many lines. */
self.onmessage = ({ data }: MessageEvent<HandOffOrder>) => {
  for (const take of data.takes) takes.set(take.id, take);
  self.postMessage(handOff(data.project, takes) satisfies Result<HandedOff>);
};
