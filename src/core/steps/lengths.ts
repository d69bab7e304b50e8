import { between } from "@core/schema";

/** The longest move, hold or wait: an hour. */
export const longestStepMs = 3_600_000;
export const lengthMs = between(0, longestStepMs);

export const secondsOf = (ms: number): string => `${ms / 1000} s`;
