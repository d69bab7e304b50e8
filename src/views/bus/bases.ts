/** In what the bytes of a packet are written. */
export const bases = { hex: "hex", decimal: "decimal", binary: "binary" } as const;
export type Base = keyof typeof bases;
