import Papa from "papaparse";

/** Rows as text that a spreadsheet opens: commas, quotes where they are needed, lines ended as RFC 4180 has it. */
export const writeCsv = (rows: readonly (readonly (string | number)[])[]): string =>
  `${Papa.unparse(rows as (string | number)[][])}\r\n`;

/** The rows of a text with commas, semicolons or tabs, whichever it uses. */
export const readCsv = (text: string): readonly (readonly string[])[] =>
  Papa.parse<string[]>(text.replace(/^\uFEFF/, ""), { skipEmptyLines: "greedy" }).data;

/** Rows with tabs between cells, as a spreadsheet pastes them. */
export const writeTsv = (rows: readonly (readonly (string | number)[])[]): string =>
  Papa.unparse(rows as (string | number)[][], { delimiter: "\t", newline: "\n" });
