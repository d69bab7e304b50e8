import type { Wire } from "./drawing";

/** Colours of wires by the words that people use for them. */
const byWord: Readonly<Record<string, string>> = {
  black: "#1c1a17",
  brown: "#6f4a2a",
  red: "#c23a2b",
  orange: "#df8127",
  yellow: "#e2c12f",
  white: "#f7f4ea",
  grey: "#9a9a96",
  gray: "#9a9a96",
  green: "#3f8a4a",
  blue: "#3a66b0",
  violet: "#7a4fa0",
};

/** Where nobody said: ground darkest, the supply red, the signal light. */
const byRole: Readonly<Record<Wire["role"], string>> = { ground: "#1c1a17", supply: "#c23a2b", signal: "#e2c12f" };

/** The colour in which a wire is drawn. */
export function wireColour({ colour, role }: Pick<Wire, "colour" | "role">): string {
  const word = colour
    ?.toLowerCase()
    .match(/[a-z]+/g)
    ?.find((one) => Object.hasOwn(byWord, one));
  return (word && byWord[word]) || byRole[role];
}
