import {
  benchSheets,
  type HandedOff,
  handOff,
  jsonOf,
  markdownOf,
  type Paper,
  type ReadBack,
  type Rows,
  readBack,
  type SheetKind,
  type SheetPage,
  type TableAsk,
  type TableFormat,
  tableOf,
} from "@core/handOff";
import type { Project, TakeData } from "@core/project";
import { ok, type Result } from "@core/result";
import Papa from "papaparse";

export type HandOffAsk =
  | { readonly kind: "write" }
  | { readonly kind: "read"; readonly text: string }
  | { readonly kind: "table"; readonly table: TableAsk; readonly format: TableFormat }
  | { readonly kind: "sheets"; readonly paper: Paper; readonly sheets: readonly SheetKind[] };

export interface HandOffOrder {
  readonly project: Project;
  readonly takes: readonly TakeData[];
  readonly ask: HandOffAsk;
}

export type HandOffNews =
  | { readonly kind: "write"; readonly handed: Result<HandedOff> }
  | { readonly kind: "read"; readonly back: Result<ReadBack> }
  | { readonly kind: "table"; readonly text: Result<string> }
  | { readonly kind: "sheets"; readonly pages: Result<readonly SheetPage[]> };

/** Lines ended as RFC 4180 has it. */
const writers: Readonly<Record<TableFormat, (rows: Rows) => string>> = {
  csv: (rows) => `${Papa.unparse(rows as (string | number)[][])}\r\n`,
  spreadsheet: (rows) => Papa.unparse(rows as (string | number)[][], { delimiter: "\t", newline: "\n" }),
  json: jsonOf,
  markdown: markdownOf,
};

/** Writes what is handed off, and reads it back, apart from the page and from the bench: hours of takes are many lines. */
self.onmessage = ({ data: { project, takes, ask } }: MessageEvent<HandOffOrder>) => {
  const library = new Map(takes.map((take) => [take.id, take]));
  const answer = (): HandOffNews => {
    if (ask.kind === "write") return { kind: "write", handed: handOff(project, library) };
    if (ask.kind === "read") return { kind: "read", back: readBack(project, library, ask.text) };
    if (ask.kind === "sheets") return { kind: "sheets", pages: benchSheets(project, library, ask.paper, ask.sheets) };
    const rows = tableOf(project, library, ask.table);
    return { kind: "table", text: rows.ok ? ok(writers[ask.format](rows.value)) : rows };
  };
  self.postMessage(answer());
};
