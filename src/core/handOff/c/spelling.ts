import { num } from "../numbers";
import type { NumberSpelling } from "../spelling";

/** How a C file writes its numbers: as they are, in floating point, or by macros that make whole numbers of them before anything runs. */
export interface Spelling extends NumberSpelling {
  /** Of a pose that says nothing of a joint. */
  readonly keep: string;
  /** The types, and what else the header says of its numbers. */
  readonly types: readonly string[];
  /** A target that came from outside and is none; null where there can be none. */
  readonly isNone: ((target: string) => string) | null;
  /** The type of a time that is asked for in ms, and that time as the file counts it. */
  readonly askedMs: { readonly type: string; readonly isWrong: string | null; readonly own: string };
  /** The ms between two ticks, which are whole, as the file counts them. */
  sinceMs(ms: string): string;
}

export const real: Spelling = {
  isWhole: false,
  target: num,
  perS: num,
  ms: num,
  keep: "1e9",
  types: ["typedef double Target; /* degrees, or a spin from -1 to 1 */"],
  isNone: (target) => `!(${target} - ${target} == 0)`,
  askedMs: { type: "double", isWrong: "!(in_ms >= 0)", own: "in_ms" },
  sinceMs: (ms) => ms,
  smooth: "hermite(key->target, key->slope, next->target, next->slope, width_ms, share)",
};

export const whole: Spelling = {
  isWhole: true,
  target: (value, unit) => `${unit === "°" ? "DEG" : "SPIN"}(${num(value)})`,
  perS: (value, unit) => (value === 0 ? "0" : `${unit === "°" ? "DEG_PER_S" : "SPIN_PER_S"}(${num(value)})`),
  ms: (value) => (value === 0 ? "0" : `MS(${num(value)})`),
  keep: "INT32_MIN",
  types: [
    "/* Everything is a whole number. A compiler works these out of constants; nothing of it is left when the program runs.",
    " * Targets: 65536 to a degree, 16777216 to a spin of 1. */",
    "typedef int32_t Target;",
    "#define SCALED(x, one) ((x) * (one) + ((x) < 0 ? -0.5 : 0.5))",
    "#define DEG(x) ((Target)SCALED(x, 65536.0))",
    "#define SPIN(x) ((Target)SCALED(x, 16777216.0))",
  ],
  isNone: null,
  askedMs: { type: "uint32_t", isWrong: null, own: "(Ms)in_ms * 65536" },
  sinceMs: (ms) => `(Ms)(${ms}) * 65536`,
  smooth: "hermite(key->target, key->leaves, next->target, key->arrives, share)",
};
