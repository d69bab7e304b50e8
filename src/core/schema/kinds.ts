import * as z from "zod/mini";
import type { DeepReadonly } from "./parts";

/**
 * A **kind** is one file: its schema, its name, how it begins and all that it does stand together in one entry. A folder of kinds has one
 * table of its entries, each under its own name; the union, its schema and every look-up are made from that table.
 */
export interface Described<Schema> {
  readonly schema: Schema;
}

/** The schema of a kind: whatever it holds, its `kind` is the name of its entry. */
export type KindSchema = z.ZodMiniType<{ readonly kind: string }>;

/** The value that a schema describes, as the document holds it. */
export type ValueOf<Schema extends KindSchema> = DeepReadonly<z.infer<Schema>>;

type AnyTable = Readonly<Record<string, Described<KindSchema>>>;

/** Every value of a table of kinds. */
export type UnionOf<Table extends AnyTable> = ValueOf<Table[keyof Table]["schema"]>;

/** Each entry stands under the name that its own values bear; anything else is refused by the compiler. */
type RightlyNamed<Table> = {
  readonly [Name in keyof Table]: Table[Name] extends { readonly schema: infer Schema }
    ? z.infer<Schema>["kind" & keyof z.infer<Schema>] extends Name
      ? Table[Name]
      : never
    : never;
};

export const kindTable = <Table extends AnyTable>(table: Table & RightlyNamed<Table>): Table => table;

/** The schema of any value of a table. */
export function unionSchema<Table extends AnyTable>(table: Table) {
  type Option = Table[keyof Table]["schema"];
  const [first, ...others] = Object.values(table).map(({ schema }) => schema) as unknown as [Option, ...Option[]];
  return z.discriminatedUnion("kind", [first, ...others] as never) as unknown as z.ZodMiniType<z.infer<Option>>;
}

/** What each kind of a table is called, in the table's order: for menus and sentences. */
export const namesOf = <Kind extends string>(table: Readonly<Record<Kind, { readonly name: string }>>) =>
  Object.fromEntries(Object.keys(table).map((kind) => [kind, table[kind as Kind].name])) as Readonly<
    Record<Kind, string>
  >;
