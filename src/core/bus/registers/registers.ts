import type { Layout, Register, RegisterRole, SmartCard } from "@core/project";
import { ok, problem, type Result } from "@core/result";
import { readWhole, wholeBytes } from "../packets/bytes";

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

/** The bytes that make up a register's value: its own, and that of its direction where it stands apart. */
export function reachOf(register: Register): { readonly address: number; readonly size: number } {
  const { address, size, sign } = register;
  if (typeof sign !== "object") return { address, size };
  const first = Math.min(address, sign.address);
  return { address: first, size: Math.max(address + size, sign.address + 1) - first };
}

/** What stands in a register, from bytes in which it begins at `at`: its own number, with its sign. */
export function rawIn(layout: Layout, register: Register, bytes: ArrayLike<number>, at = 0): number {
  const whole = readWhole(bytes, at, register.size, layout.byteOrder);
  if (register.sign === "none") return whole;
  if (register.sign === "twos") {
    const full = 256 ** register.size;
    return whole >= full / 2 ? whole - full : whole;
  }
  if (typeof register.sign === "object") {
    const isBack = bytes[at + register.sign.address - register.address] === register.sign.back;
    return isBack && whole !== 0 ? -whole : whole;
  }
  const sign = 2 ** register.sign;
  return Math.floor(whole / sign) % 2 === 1 ? -(whole % sign) : whole % sign;
}

/** The bytes of a number over all of a register's reach. It must lie within what they can say. */
export function rawBytes(layout: Layout, register: Register, raw: number): number[] {
  if (typeof register.sign === "object") {
    const reach = reachOf(register);
    const bytes = new Array<number>(reach.size).fill(0);
    const own = wholeBytes(Math.abs(raw), register.size, layout.byteOrder);
    bytes.splice(register.address - reach.address, own.length, ...own);
    bytes[register.sign.address - reach.address] = raw < 0 ? register.sign.back : 0;
    return bytes;
  }
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
  const reaches = registers.map(reachOf);
  const address = Math.min(...reaches.map((reach) => reach.address));
  const end = Math.max(...reaches.map((reach) => reach.address + reach.size));
  return { address, count: end - address };
}

/** What a person must agree to before a register is written: nothing, or that the torque goes off for a moment. */
export function torqueRule(layout: Layout, register: Register, isTorqueOn: boolean): "write" | "torque first" {
  return register.needsTorqueOff && isTorqueOn && registerFor(layout, "torque") ? "torque first" : "write";
}

/** The one turn of a family's servos: the first and the last tick, and what a tick is worth, in degrees. */
export interface Turn {
  readonly low: number;
  readonly high: number;
  readonly degPerTick: number;
}

/** Where the servos of a family go in the mode of one turn; null where its registers do not say. */
export function turnOf(layout: Layout): Turn | null {
  const highest = registerFor(layout, "highestPosition") ?? registerFor(layout, "goalPosition");
  const lowest = registerFor(layout, "lowestPosition") ?? highest;
  const position = registerFor(layout, "position") ?? highest;
  if (!highest || !lowest || !position) return null;
  return { low: lowest.low, high: highest.high, degPerTick: Math.abs(position.scale) };
}

/** What a card says of a servo of this family before anybody has measured it: its turn, from 0° on. */
export function turnOnCard(layout: Layout): Pick<SmartCard, "window" | "nominal" | "travelDeg"> {
  const { low, high, degPerTick } = turnOf(layout) ?? { low: 0, high: 999, degPerTick: 0.3 };
  // A turn that comes round to its beginning ends one tick before it.
  const isRound = Math.abs((high - low + 1) * degPerTick - 360) < 1e-6;
  const end = isRound ? high + 1 : high;
  return { window: { low, high }, nominal: { low, high: end }, travelDeg: (end - low) * degPerTick };
}
