import type { Layout, Register, RegisterRole } from "@core/project";
import { ok, problem, type Result } from "@core/result";
import { readWhole, wholeBytes } from "./bytes";

const byRole = new WeakMap<Layout, ReadonlyMap<RegisterRole, Register>>();

/** The register that plays a role in a family, the first of them; null where it has none. */
export function registerFor(layout: Layout, role: RegisterRole): Register | null {
  let known = byRole.get(layout);
  if (!known) {
    // From the last to the first, so that the first one stays.
    known = new Map(
      [...layout.registers].reverse().flatMap((register) => (register.role ? [[register.role, register]] : [])),
    );
    byRole.set(layout, known);
  }
  return known.get(role) ?? null;
}

export const registerAt = (layout: Layout, address: number): Register | null =>
  layout.registers.find((register) => register.address === address) ?? null;

/** What stands in a register, from its bytes: its own number, with its sign. */
export function rawIn(layout: Layout, register: Register, bytes: ArrayLike<number>, at = 0): number {
  const whole = readWhole(bytes, at, register.size, layout.byteOrder);
  if (register.sign === "none") return whole;
  if (register.sign === "twos") {
    const full = 256 ** register.size;
    return whole >= full / 2 ? whole - full : whole;
  }
  const sign = 2 ** register.sign;
  return Math.floor(whole / sign) % 2 === 1 ? -(whole % sign) : whole % sign;
}

/** The bytes of a number in a register. It must lie within what the register's bytes can say. */
export function rawBytes(layout: Layout, register: Register, raw: number): number[] {
  const whole =
    typeof register.sign === "number" && raw < 0 ? 2 ** register.sign + (Math.abs(raw) % 2 ** register.sign) : raw;
  return wholeBytes(whole, register.size, layout.byteOrder);
}

/** The value in the register's own unit. */
export const shownOf = (register: Register, raw: number): number => raw * register.scale + register.offset;

/** The nearest number that a register can hold for a value in its unit. */
export const rawOf = (register: Register, shown: number): number =>
  Math.round((shown - register.offset) / register.scale);

/** Decimals that show every step of a register's scale. */
export const decimalsOf = (register: Register): number =>
  Number.isInteger(register.scale) ? 0 : Math.min(3, Math.max(1, Math.ceil(-Math.log10(Math.abs(register.scale)))));

/** A value in words: its name where it has one, else the number with its unit. */
export function wordsOf(register: Register, raw: number): string {
  const choice = register.choices.find((one) => one.value === raw);
  if (choice) return choice.label;
  const unit = register.unit === "" || register.unit === "°" ? register.unit : ` ${register.unit}`;
  return `${shownOf(register, raw).toFixed(decimalsOf(register)).replace("-", "−")}${unit}`;
}

/** Checks a number for a register: whether it may be written at all, and lies within its range. */
export function checkRaw(register: Register, raw: number): Result<number> {
  if (register.access === "read") return problem(`${register.label} can only be read.`);
  if (!Number.isInteger(raw)) return problem(`${register.label} takes whole numbers.`);
  if (raw < register.low || raw > register.high)
    return problem(
      `${register.label} goes from ${wordsOf(register, register.low)} (${register.low}) to ${wordsOf(register, register.high)} (${register.high}).`,
    );
  if (register.choices.length > 0 && !register.choices.some((choice) => choice.value === raw))
    return problem(`${register.label} is one of ${register.choices.map((choice) => choice.value).join(", ")}.`);
  return ok(raw);
}

/** The stretch of addresses that holds all of these registers, to be read at once. */
export function stretchOf(registers: readonly Register[]): { readonly address: number; readonly count: number } {
  const address = Math.min(...registers.map((register) => register.address));
  const end = Math.max(...registers.map((register) => register.address + register.size));
  return { address, count: end - address };
}

/** What a person must agree to before a register is written: nothing, or that the torque goes off for a moment. */
export function torqueRule(layout: Layout, register: Register, isTorqueOn: boolean): "write" | "torque first" {
  return register.needsTorqueOff && isTorqueOn && registerFor(layout, "torque") ? "torque first" : "write";
}
