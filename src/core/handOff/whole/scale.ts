import type { MachineJoint } from "../machine";

/** Times: so many bits behind the point of a millisecond. */
export const msBits = 16;
/** Shares of a way or of a time, of which 1 is all. */
export const shareBits = 24;
/** Counts before they are rounded. */
export const countBits = 16;
/** Pulses in µs. */
export const pulseBits = 32;
/** A speed has so many bits more than a target: it is multiplied by the short time of a frame. */
export const speedBits = 8;
/** What is this near to the edge between two counts counts as on it, in 65536ths of a count: numbers that a person would call round must not fall short by a rounding. */
export const graceOf65536 = 64;

/** The bits behind the point of a joint's target: 65536 to a degree; a spin, which is small near its rest, has more. */
export const targetBits = (unit: MachineJoint["unit"]): number => (unit === "°" ? 16 : 24);

/** A number as a whole one with so many bits behind the point, rounded to the nearest. */
export const scaled = (value: number, bits: number): number => Math.round(value * 2 ** bits);

/** A whole number divided by 2^bits, rounded down for any sign. Exact below 2^53. */
export const down = (value: number, bits: number): number => Math.floor(value / 2 ** bits);
