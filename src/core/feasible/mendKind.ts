import type { Edit, Routine } from "@core/project";

/** One way to mend a finding: what its button says, and the edit it stands for. Its data is plain, since it crosses from a worker. */
export interface MendKind<Needs> {
  words(mend: Needs): string;
  edit(routine: Routine, mend: Needs): Edit;
}

export const mendKind = <Needs>(entry: MendKind<Needs>): MendKind<Needs> => entry;

export const seconds = (ms: number): string => `${(ms / 1000).toFixed(2)} s`;
