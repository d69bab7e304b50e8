import type { ByteOrder, CheckRule, Field, Layout } from "@core/project";
import { readWhole, wholeBytes } from "../packets/bytes";
import { checkBits, checkValue, checkWords, usualChecks } from "../packets/check";
import { checkSize, dissect } from "../packets/dissect";
import { type Direction, fieldSize, fieldsOf, headerOf } from "../packets/packet";
import { countedWords, fieldNames } from "./explain";

/** A rule that would make the examples right, and the family with it. */
export interface Remedy {
  readonly words: string;
  readonly layout: Layout;
}

export interface Proof {
  readonly isRight: boolean;
  /** What was found, in a sentence for each example. */
  readonly sentences: readonly string[];
  /** What would make all examples right, the smallest change first. */
  readonly remedies: readonly Remedy[];
}

export interface Example {
  readonly direction: Direction;
  readonly bytes: readonly number[];
}

const mostRemedies = 8;

/**
 * Holds example packets of a manual against a family. Where they do not fit, the usual checks, coverages, byte orders and ways of counting
 * the length are tried, and those that make every example right are told.
 */
export function prove(layout: Layout, examples: readonly Example[]): Proof {
  const sentences = examples.map((example) => judged(layout, example));
  const isRight = examples.length > 0 && examples.every((example) => fits(layout, example));
  return { isRight, sentences, remedies: isRight || examples.length === 0 ? [] : remediesFor(layout, examples) };
}

/** Whole, and nothing left over. */
function fits(layout: Layout, { direction, bytes }: Example): boolean {
  const found = dissect(layout, direction, bytes);
  return found.status === "whole" && found.wireAt.at(-1) === bytes.length;
}

function judged(layout: Layout, example: Example): string {
  const { direction, bytes } = example;
  const found = dissect(layout, direction, bytes);
  if (found.status === "short")
    return `By the length it would have more bytes than these ${bytes.length}: the length counts something else, or a byte is missing.`;
  const end = found.wireAt.at(-1) as number;
  if (found.fault === null)
    return end === bytes.length
      ? "It fits, and its check is right."
      : `It ends ${bytes.length - end} bytes early: the length counts something else.`;
  if (found.fault === "header")
    return `It does not begin with the header ${headerOf(layout, direction).map(hex2).join(" ")}.`;
  if (found.fault === "length")
    return `The length, ${found.statedLength}, is too small for what it counts: ${countedWords(layout, direction)}.`;
  if (found.fault === "stuffing") return "The byte stuffing does not fit.";
  if (end !== bytes.length) return `By the length it ends ${bytes.length - end} bytes early.`;
  const digits = checkSize(layout) * 2;
  const hex = (value: number) => value.toString(16).toUpperCase().padStart(digits, "0");
  return `Its fields fit, but its check says ${hex(found.statedCheck)}, and the bytes come to ${hex(found.expectedCheck)}.`;
}

const hex2 = (byte: number) => byte.toString(16).toUpperCase().padStart(2, "0");

function remediesFor(layout: Layout, examples: readonly Example[]): Remedy[] {
  const remedies: Remedy[] = [];
  const headed = headers(layout, examples);
  for (const { layout: withHeader, words: headerWords } of headed)
    for (const { layout: counted, words: lengthWords } of lengths(withHeader, examples))
      for (const { layout: checked, words: checkRuleWords } of checks(counted, examples)) {
        const words = [headerWords, lengthWords, checkRuleWords].filter((part) => part !== "");
        if (words.length > 0) remedies.push({ words: words.join("; "), layout: checked });
        if (remedies.length >= mostRemedies) return remedies;
      }
  return remedies;
}

/** The family with its own header, or with the bytes that the examples of a direction begin with. */
function headers(layout: Layout, examples: readonly Example[]): Remedy[] {
  const begins = (direction: Direction) =>
    examples.filter((one) => one.direction === direction).map((one) => one.bytes);
  let changed = layout;
  const words: string[] = [];
  for (const direction of ["request", "reply"] as const) {
    const header = headerOf(changed, direction);
    const all = begins(direction);
    const first = all[0]?.slice(0, header.length);
    if (!first || first.length < header.length) continue;
    const isSame = (bytes: readonly number[], other: readonly number[]) =>
      other.every((byte, at) => bytes[at] === byte);
    if (all.every((bytes) => isSame(bytes, header)) || !all.every((bytes) => isSame(bytes, first))) continue;
    words.push(`a ${direction} begins with ${first.map(hex2).join(" ")}`);
    changed =
      direction === "request"
        ? { ...changed, header: first, replyHeader: changed.replyHeader ?? changed.header }
        : { ...changed, replyHeader: first };
  }
  return [{ words: words.join("; "), layout: changed }];
}

/** Sizes of checks, byte orders, and what the length could count, so that every example ends with its last byte. */
function lengths(layout: Layout, examples: readonly Example[]): Remedy[] {
  const found: Remedy[] = [];
  const sizes = [...new Set([checkSize(layout), 1, 2, 4])];
  const orders: ByteOrder[] =
    layout.byteOrder === "low first" ? ["low first", "high first"] : ["high first", "low first"];
  for (const size of sizes)
    for (const byteOrder of layout.length.size === 1 ? [layout.byteOrder] : orders) {
      const sized =
        size === checkSize(layout) ? layout : { ...layout, check: { ...layout.check, rule: placeholder(size) } };
      const ordered = { ...sized, byteOrder };
      const orderWords =
        byteOrder === layout.byteOrder ? "" : `the ${byteOrder.replace(" first", "")} byte comes first`;
      if (examples.every((example) => endsRight(ordered, example))) {
        found.push({ words: orderWords, layout: ordered });
        continue;
      }
      const plus = plusFor(ordered, examples);
      if (plus === null) continue;
      const counted = { ...ordered, length: { ...layout.length, ...countsFor(ordered, plus) } };
      if (!examples.every((example) => endsRight(counted, example))) continue;
      const lengthWords = `the length counts ${countedWords(counted, "request")}`;
      found.push({ words: [orderWords, lengthWords].filter(Boolean).join("; "), layout: counted });
    }
  return found;
}

const placeholder = (size: number): CheckRule =>
  size === 1
    ? { kind: "sum", ending: "plain" }
    : {
        kind: "crc",
        bits: size === 2 ? 16 : 32,
        polynomial: 1,
        start: 0,
        reflectsIn: false,
        reflectsOut: false,
        finalXor: 0,
      };

/** Whether the length fits the bytes, whatever the check says. */
function endsRight(layout: Layout, { direction, bytes }: Example): boolean {
  const found = dissect(layout, direction, bytes);
  return (found.status === "whole" || found.fault === "check") && found.wireAt.at(-1) === bytes.length;
}

/** What the stated length is more than the bytes of the parameters, where all examples agree on it. */
function plusFor(layout: Layout, examples: readonly Example[]): number | null {
  const pluses = examples.map(({ direction, bytes }) => {
    let fixed = 0;
    let lengthAt = -1;
    for (const field of fieldsOf(layout, direction)) {
      if (field === "length") lengthAt = fixed;
      fixed += fieldSize(layout, direction, field);
    }
    if (lengthAt < 0 || bytes.length < fixed) return Number.NaN;
    return readWhole(bytes, lengthAt, layout.length.size, layout.byteOrder) - (bytes.length - fixed);
  });
  const first = pluses[0] ?? Number.NaN;
  return pluses.every((plus) => plus === first) && Math.abs(first) <= 32 ? first : null;
}

/** Fields that come to so many bytes: those after the length first, as manuals count; the rest is a plain number. */
function countsFor(layout: Layout, plus: number): { counts: Field[]; plus: number } {
  const fields = layout.requestFields;
  const after = fields.slice(fields.indexOf("length") + 1).filter((field) => field !== "parameters");
  const extras: Field[][] = [
    [],
    after.filter((field) => field !== "check"),
    after,
    ["length", ...after],
    fields.filter((field) => field !== "parameters"),
  ];
  if (after.includes("check")) extras.push(["check"]);
  for (const extra of extras) {
    const size = extra.reduce((sum, field) => sum + fieldSize(layout, "request", field), 0);
    if (size === plus) {
      const counted = new Set<Field>(["parameters", ...extra]);
      // A reply has its error where a request has its operation.
      if (counted.has("operation")) counted.add("error");
      return { counts: [...counted], plus: 0 };
    }
  }
  return { counts: ["parameters"], plus };
}

/** Rules and coverages that give every example its check. Those in place are tried first. */
function checks(layout: Layout, examples: readonly Example[]): Remedy[] {
  const size = checkSize(layout);
  const dissected = examples.map(({ direction, bytes }) => dissect(layout, direction, bytes));
  if (examples.every((example) => fits(layout, example))) return [{ words: "", layout }];
  const rules = [layout.check.rule, ...usualChecks].filter((rule) => checkBits(rule) === size * 8);
  const found: Remedy[] = [];
  for (const covers of coverages(layout))
    for (const rule of rules)
      for (const byteOrder of size === 1 ? (["low first"] as const) : (["low first", "high first"] as const)) {
        const isRight = dissected.every(({ plain, parts }) => {
          const covered: number[] = [];
          for (const { field, from, to } of parts) if (covers.includes(field)) covered.push(...plain.slice(from, to));
          const check = parts.find(({ field }) => field === "check");
          if (!check) return false;
          const wanted = wholeBytes(checkValue(rule, covered), size, byteOrder);
          return wanted.every((byte, at) => plain[check.from + at] === byte);
        });
        if (!isRight) continue;
        const order = size === 1 ? layout.check.byteOrder : byteOrder;
        const words = `${checkWords(rule)}, over ${covers.map((field) => fieldNames[field]).join(", ")}${size > 1 ? `, ${byteOrder.replace(" first", "")} byte first` : ""}`;
        found.push({ words, layout: { ...layout, check: { rule, covers, byteOrder: order } } });
      }
  return found;
}

/** Neighbouring fields that a check could cover: from any field on to any later one, what is covered now first, then up to the check. */
function coverages(layout: Layout): Field[][] {
  const fields: Field[] = [...layout.requestFields];
  const withError = (run: Field[]): Field[] =>
    run.includes("operation") && !run.includes("error") ? [...run, "error"] : run;
  const before = fields.slice(0, fields.indexOf("check"));
  const found: Field[][] = [[...layout.check.covers]];
  for (let to = before.length; to > 0; to -= 1)
    for (let from = 0; from < to; from += 1) {
      const run = withError(before.slice(from, to));
      if (run.includes("parameters") || run.includes("operation")) found.push(run);
    }
  return found;
}
