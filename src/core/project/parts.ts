import { z } from "zod";

/** Ids are stable for the life of a project: renaming or reordering never changes one. */
export const idSchema = z.string().min(1).max(64);
export const labelSchema = z.string().trim().min(1).max(80);
export const finite = z.number();

/** A closed range with its low end strictly below its high end. */
export const rangeSchema = z
  .strictObject({ low: finite, high: finite })
  .refine((range) => range.low < range.high, { message: "the low end must be below the high end" });

export type DeepReadonly<T> = T extends (infer Item)[]
  ? readonly DeepReadonly<Item>[]
  : T extends object
    ? { readonly [Key in keyof T]: DeepReadonly<T[Key]> }
    : T;

export type Range = DeepReadonly<z.infer<typeof rangeSchema>>;
