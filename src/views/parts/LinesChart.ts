import { lazily } from "./lazily";

/** The chart of lines, fetched when the first is shown: what draws it is large. */
export const LinesChart = lazily(async () => ({ default: (await import("./Chart")).LinesChart }));
