/** What can go wrong at an edge is a value: either the thing asked for, or a sentence for the person. */
export type Result<T> = { readonly ok: true; readonly value: T } | Problem;

/** A sentence that says what is wrong and, where it can, what would be right. */
export interface Problem {
  readonly ok: false;
  readonly problem: string;
}

export const ok = <T>(value: T): Result<T> => ({ ok: true, value });
export const problem = (sentence: string): Problem => ({ ok: false, problem: sentence });
