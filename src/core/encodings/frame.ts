import { figure } from "@core/numbers";

/** A signal repeated `frameHz` times a second has this period, in µs. */
export const periodUsOf = (frameHz: number): number => 1e6 / frameHz;

/** The share of the period that the pulse is high: 0 is never, 1 is always. */
export const dutyOf = (pulseUs: number, periodUs: number): number => pulseUs / periodUs;

/** The pulse, in µs, that this share of the period makes. */
export const pulseUsOfDuty = (dutyFraction: number, periodUs: number): number => dutyFraction * periodUs;

/** Where a pulse lies in a range of pulses: 0 at `lowUs`, 1 at `highUs`; outside it runs on. */
export const fractionOf = (pulseUs: number, lowUs: number, highUs: number): number =>
  (pulseUs - lowUs) / (highUs - lowUs);

/** `pulse = low + fraction × (high − low)` */
export const pulseUsOfFraction = (fraction: number, lowUs: number, highUs: number): number =>
  lowUs + fraction * (highUs - lowUs);

/** The period that a frame rate asks for, worked out. */
export const periodLine = (askedHz: number, periodUs: number): string =>
  `period = 1 000 000 / ${figure(askedHz)} = ${figure(periodUs)} µs`;

/** A whole number that was worked out, and what can be loaded of it. */
export const loadable = (wished: number, loaded: number): string =>
  wished === loaded ? `${loaded}` : `${wished}, which does not fit: ${loaded}`;
