import { num } from "../numbers";
import type { NumberSpelling } from "../spelling";

/** How a Python module writes its numbers: as they are, in floating point, or by functions that make whole numbers of fractions. */
export interface Spelling extends NumberSpelling {
  /** Whether a target that came from outside is none; null where there can be none. */
  readonly isNone: string | null;
  /** A time that is asked for in whole ms, as the module counts it. */
  own(ms: string): string;
}

export const real: Spelling = {
  isWhole: false,
  target: num,
  perS: num,
  ms: num,
  isNone: "target - target != 0",
  own: (ms) => ms,
  smooth: "hermite(own, slope, next_target, next_slope, width_ms, share)",
};

/** A number as a fraction of whole ones, as far as it can matter: `-455, 10`. */
function fraction(value: number): string {
  const [digits = "0", behind = ""] = value
    .toFixed(7)
    .replace(/\.?0+$/, "")
    .split(".");
  return behind === "" ? String(Number(digits)) : `${String(Number(`${digits}${behind}`))}, ${10 ** behind.length}`;
}

export const whole: Spelling = {
  isWhole: true,
  target: (value, unit) => (value === 0 ? "0" : `${unit === "°" ? "deg" : "spin"}(${fraction(value)})`),
  perS: (value, unit) => (value === 0 ? "0" : `${unit === "°" ? "deg" : "spin"}_per_s(${fraction(value)})`),
  ms: (value) => (value === 0 ? "0" : `ms(${fraction(value)})`),
  isNone: null,
  own: (ms) => `${ms} * 65536`,
  smooth: "hermite(own, leaves, next_target, arrives, share)",
};
