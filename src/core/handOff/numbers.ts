/** A number as C and Python read it back to the very same one: the shortest that does. */
export function num(value: number): string {
  const text = String(Object.is(value, -0) ? 0 : value);
  return text.replace("e+", "e");
}

/** The same with a point in it, where a whole number would mean another type. */
export const real = (value: number): string => (/[.e]/.test(num(value)) ? num(value) : `${num(value)}.0`);

/** Rows of cells with their columns under one another. */
export function columns(rows: readonly (readonly string[])[]): readonly string[] {
  const widths = (rows[0] ?? []).map((_, at) => Math.max(...rows.map((row) => row[at]?.length ?? 0)));
  return rows.map((row) =>
    row.map((cell, at) => (at < row.length - 1 ? cell.padEnd(widths[at] ?? 0) : cell)).join(" "),
  );
}
