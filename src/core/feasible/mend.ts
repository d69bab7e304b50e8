import type { Edit, Routine } from "@core/project";
import { clipMends } from "./clipMends";
import { laneMends } from "./laneMends";
import type { MendKind } from "./mendKind";
import { moveMends } from "./moveMends";

/** Every kind of mend. A new one is an entry in the file of what it mends. */
const table = { ...moveMends, ...clipMends, ...laneMends };

type NeedsOf<Entry> = Entry extends MendKind<infer Needs> ? Needs : never;

/** One way to mend a finding; plain data. */
export type Mend = {
  readonly [Kind in keyof typeof table]: { readonly kind: Kind } & NeedsOf<(typeof table)[Kind]>;
}[keyof typeof table];

const entryOf = (mend: Mend) => table[mend.kind] as MendKind<Mend>;

/** What a mend does, for its button. */
export const mendWords = (mend: Mend): string => entryOf(mend).words(mend);

/** The edit that a mend stands for. */
export const mendEdit = (routine: Routine, mend: Mend): Edit => entryOf(mend).edit(routine, mend);
