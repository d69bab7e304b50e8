/**
 * How a project of version n becomes one of version n + 1; the entry at place 0 takes version 1.
 * A migration gets unchecked data and must not throw: what it cannot make sense of it hands on, to be refused.
 */
export const migrations: readonly ((project: unknown) => unknown)[] = [];
