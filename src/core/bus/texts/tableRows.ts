/** The rows of a table of a manual: columns apart by `|` or tabs, empty lines left out, each with the number of its line. */
export const rowsOf = (text: string): { cells: string[]; line: number }[] =>
  text
    .split(/\r?\n/)
    .map((line, at) => ({ cells: line.split(/[|\t]/).map((cell) => cell.trim()), line: at + 1 }))
    .filter(({ cells }) => cells.some((cell) => cell !== ""));

/** A whole number as manuals print it, 17 or 0x11; null when it is none. */
export function numberIn(text: string | undefined): number | null {
  if (!text || !/^(0x[0-9a-f]+|\d+)$/i.test(text)) return null;
  return Number(text);
}
