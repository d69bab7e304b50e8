import * as z from "zod/mini";

/** Ids are stable for the life of a project: renaming or reordering never changes one. */
export const idSchema = z.string().check(z.minLength(1), z.maxLength(64));
export const labelSchema = z.string().check(z.trim(), z.minLength(1), z.maxLength(80));
export const finite = z.number();
export const positive = finite.check(z.positive());
export const atLeastZero = finite.check(z.nonnegative());
export const between = (low: number, high: number) => finite.check(z.gte(low), z.lte(high));
export const wholeBetween = (low: number, high: number) => z.int().check(z.gte(low), z.lte(high));
export const textUpTo = (length: number) => z.string().check(z.maxLength(length));
/** How long something lasts on the bench: up to ten minutes. */
export const durationMs = between(0, 600_000);
export const listUpTo = <Item extends z.ZodMiniType>(item: Item, length: number) =>
  z.array(item).check(z.maxLength(length));

/** A closed range with its low end strictly below its high end. */
export const rangeSchema = z
  .strictObject({ low: finite, high: finite })
  .check(z.refine((range) => range.low < range.high, { error: "the low end must be below the high end" }));

/** All of it unchangeable; a list stays a list, and a tuple a tuple. */
export type DeepReadonly<T> = T extends object ? { readonly [Key in keyof T]: DeepReadonly<T[Key]> } : T;

export type Range = DeepReadonly<z.infer<typeof rangeSchema>>;
