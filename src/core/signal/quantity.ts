import { readNumber } from "@core/numbers";
import { ok, problem, type Result } from "@core/result";

/**
 * What a person may type into a number field: arithmetic with units, such as "1.5ms", "1500+20" or "(90-45)/2".
 * The grammar is `sum = product (("+"|"−") product)*`, `product = signed (("*"|"/") signed)*`,
 * `signed = ("-"|"+")* (number unit? | "(" sum ")")`.
 */
export interface Quantity {
  readonly value: number;
  /** The unit that was typed, in its plain spelling, or null when there was none. */
  readonly unit: string | null;
}

/** Spellings that mean the same unit. */
const spellings: Readonly<Record<string, string>> = {
  us: "µs",
  μs: "µs",
  µs: "µs",
  microseconds: "µs",
  ms: "ms",
  s: "s",
  sec: "s",
  min: "min",
  "%": "%",
  percent: "%",
  deg: "°",
  degrees: "°",
  "°": "°",
  count: "counts",
  counts: "counts",
  tick: "ticks",
  ticks: "ticks",
  hz: "Hz",
  khz: "kHz",
  mhz: "MHz",
  "°/s": "°/s",
  "deg/s": "°/s",
  "°/s²": "°/s²",
  "deg/s²": "°/s²",
  "deg/s2": "°/s²",
  v: "V",
  mv: "mV",
  a: "A",
  ma: "mA",
  kg·cm: "kg·cm",
  kgcm: "kg·cm",
  n·m: "N·m",
  nm: "N·m",
  n·cm: "N·cm",
  ncm: "N·cm",
};

/** One token of a typed expression and how many characters it took. */
const numberPattern = /^(?:(?:\d{1,3}(?:[ _ ]\d{3})+(?!\d)|\d+)(?:[.,]\d*)?|[.,]\d+)(?:e[+-]?\d+)?/i;
const unitPattern = /^(?:(?:°|deg)\/s[²2]?|%|°|[a-zµμ]+(?:·[a-z]+)?)/i;

/**
 * Reads what was typed. All parts that carry a unit must carry the same one; bare numbers take it on.
 * A decimal comma is read as a point; blanks and underscores may group thousands.
 */
export function readQuantity(text: string): Result<Quantity> {
  const reader = new QuantityReader(text);
  const value = reader.readSum();
  if (reader.trouble) return problem(reader.trouble);
  if (!reader.isAtEnd) return problem(`“${reader.rest}” does not belong here. Type a number such as 1500 or 1.5ms.`);
  if (!Number.isFinite(value)) return problem("That does not work out to a number.");
  return ok({ value, unit: reader.unit });
}

class QuantityReader {
  rest: string;
  unit: string | null = null;
  trouble: string | null = null;
  #depth = 0;

  constructor(text: string) {
    this.rest = text.replaceAll("−", "-").replaceAll("×", "*").replaceAll("÷", "/").trim();
    if (!this.rest) this.trouble = "There is nothing here. Type a number.";
  }

  get isAtEnd(): boolean {
    return this.rest === "";
  }

  readSum(): number {
    let value = this.#readProduct();
    for (let sign = this.#take(/^[+-]/); sign; sign = this.#take(/^[+-]/)) {
      const next = this.#readProduct();
      value = sign === "+" ? value + next : value - next;
    }
    return value;
  }

  #readProduct(): number {
    let value = this.#readSigned();
    for (let sign = this.#take(/^[*/]/); sign; sign = this.#take(/^[*/]/)) {
      const next = this.#readSigned();
      if (sign === "/" && next === 0) this.trouble ??= "That divides by zero.";
      value = sign === "*" ? value * next : value / next;
    }
    return value;
  }

  #readSigned(): number {
    // In a loop and not by calling itself: there may be twenty thousand of them.
    let isNegative = false;
    for (let sign = this.#take(/^[+-]/); sign; sign = this.#take(/^[+-]/)) isNegative = isNegative !== (sign === "-");
    return isNegative ? -this.#readUnsigned() : this.#readUnsigned();
  }

  #readUnsigned(): number {
    if (this.#take(/^\(/)) {
      this.#depth += 1;
      if (this.#depth > 20) this.trouble ??= "That has too many brackets.";
      const value = this.trouble ? Number.NaN : this.readSum();
      if (!this.#take(/^\)/)) this.trouble ??= "A closing bracket is missing.";
      return value;
    }
    const digits = this.#take(numberPattern);
    if (!digits) {
      this.trouble ??= this.rest
        ? `“${this.rest}” is not a number. Type a number such as 1500 or 1.5ms.`
        : "A number is missing at the end.";
      return Number.NaN;
    }
    this.#readUnit();
    const value = readNumber(digits);
    if (typeof value === "number") return value;
    this.trouble ??= value;
    return Number.NaN;
  }

  #readUnit(): void {
    const typed = this.#take(unitPattern);
    if (!typed) return;
    const unit = spellings[typed.toLowerCase()];
    if (!unit) this.trouble ??= `“${typed}” is not a unit known here.`;
    else if (this.unit && this.unit !== unit) this.trouble ??= `${this.unit} and ${unit} cannot be mixed.`;
    else this.unit = unit;
  }

  /** Takes a token off the front, with the blanks behind it. */
  #take(pattern: RegExp): string | null {
    const found = pattern.exec(this.rest)?.[0];
    if (!found) return null;
    this.rest = this.rest.slice(found.length).trimStart();
    return found;
  }
}

/** Units of one dimension and how many of the field's own unit each is worth. */
export type UnitTable = Readonly<Record<string, number>>;

export const timeUnitsUs: UnitTable = { µs: 1, ms: 1000, s: 1e6 };
export const timeUnitsS: UnitTable = { s: 1, ms: 0.001, min: 60 };
export const currentUnitsMa: UnitTable = { mA: 1, A: 1000 };
/** 1 kg·cm is 0.0981 N·m. */
export const torqueUnitsKgCm: UnitTable = { kg·cm: 1, N·m: 1 / 0.0981, N·cm: 0.01 / 0.0981 };
export const frequencyUnitsHz: UnitTable = { Hz: 1, kHz: 1e3, MHz: 1e6 };

/** Reads a quantity for a field that knows the units of one dimension; a bare number is in the field's own unit. */
export function readIn(units: UnitTable, text: string): Result<number> {
  const read = readQuantity(text);
  if (!read.ok) return read;
  if (read.value.unit === null) return ok(read.value.value);
  const factor = units[read.value.unit];
  if (factor === undefined)
    return problem(`This field takes ${Object.keys(units).join(", ")}; “${read.value.unit}” is something else.`);
  return ok(read.value.value * factor);
}
