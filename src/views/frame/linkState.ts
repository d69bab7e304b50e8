import type { linkStore } from "@stores/live";

type Link = ReturnType<typeof linkStore.getState>[number];

const stateWords = {
  greeting: "greeting…",
  live: "live",
  lost: "silent",
  refused: "not driven",
} as const;

/** How a link is, in a word or two: its wire first, then whoever should answer on it. */
export const stateOf = ({ life, state }: Link): string =>
  life === "lost" ? "not connected" : life === "opening" ? "being opened…" : stateWords[state];
