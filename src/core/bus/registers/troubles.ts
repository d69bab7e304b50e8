import type { Layout, Trouble, TroubleCause } from "@core/project";

/** What an error byte tells of: each of its bits, or its one code. What the family does not name is told by its number. */
export function troublesIn(layout: Layout, error: number): readonly Trouble[] {
  const { kind, list } = layout.errors;
  const values =
    kind === "codes"
      ? [error].filter((code) => code !== 0)
      : Array.from({ length: 8 }, (_, bit) => bit).filter((bit) => (error >> bit) & 1);
  return values.map((value) => list.find((one) => one.value === value) ?? unknown(kind, value));
}

const unknown = (kind: Layout["errors"]["kind"], value: number): Trouble => ({
  value,
  label: kind === "codes" ? `code ${value}` : `bit ${value}`,
  hint: "",
  letsGo: false,
  cause: null,
});

/** What a device says worst first, where it can say only one thing. */
const worstFirst: readonly TroubleCause[] = ["overload", "temperature", "voltage", "operation", "torque", "range"];

/** The error byte of a device with these troubles. A family that speaks in codes tells only the worst; what it has no word for it does not tell. */
export function errorByteOf(layout: Layout, causes: ReadonlySet<TroubleCause>): number {
  const { kind, list } = layout.errors;
  const told = worstFirst.flatMap((cause) =>
    causes.has(cause) ? list.filter((one) => one.cause === cause).slice(0, 1) : [],
  );
  if (kind === "codes") return told[0]?.value ?? 0;
  return told.reduce((byte, { value }) => byte | (1 << value), 0);
}

/** The troubles in words, the names the manual gives them. */
export const errorsIn = (layout: Layout, error: number): string[] =>
  troublesIn(layout, error).map(({ label }) => label);
