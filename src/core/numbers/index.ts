/**
 * The one reader of numbers that people and other programs write. What groups thousands (blanks, underscores, apostrophes) is left out; a point and a
 * comma are told apart by the **convention** of the text they stand in: in the one a comma groups thousands, in the other a point does.
 */
export type Convention = "point" | "comma";

/** A cell that says nothing of the convention: a comma or a point before three digits, as in 1,500. */
const canBeBoth = /^[-+]?[1-9]\d{0,2}[.,]\d{3}$/;
const blanks = /[\s_'’]/g;
/** Digits, with points and commas among them, and an exponent. */
const shape = /^[-+]?(?:\d[\d.,]*|[.,]\d+)(?:e[-+]?\d+)?$/i;

const trimmed = (text: string) => text.trim().replaceAll("−", "-");

/** Blanks group thousands, three digits each; else they part two numbers. */
const isWellGrouped = (text: string) =>
  !/[\s_'’]/.test(text) || /^[-+]?\s?\d{1,3}(?:[\s_'’]\d{3})+(?![\s_'’\d])/.test(text);

/** What one number alone says of the convention; null for nothing, or for something else than a number. */
function conventionIn(text: string): Convention | null {
  const digits = trimmed(text).replace(blanks, "");
  if (!shape.test(digits) || canBeBoth.test(digits)) return null;
  const [points, commas] = [digits.split(".").length - 1, digits.split(",").length - 1];
  if (points > 0 && commas > 0) return digits.lastIndexOf(".") > digits.lastIndexOf(",") ? "point" : "comma";
  // One that stands there more than once groups thousands, so the other is the decimal mark.
  if (points > 1) return "comma";
  if (commas > 1) return "point";
  return points === 1 ? "point" : commas === 1 ? "comma" : null;
}

export interface FoundConvention {
  readonly convention: Convention;
  /** A number that can be read in both ways, where nothing in the text says in which; null where that is clear. */
  readonly doubtful: string | null;
}

/** Finds the convention of a text by all its cells: what most of those say that can be read in one way only. */
export function conventionOf(cells: Iterable<string>): FoundConvention {
  let [points, commas] = [0, 0];
  let doubtful: string | null = null;
  for (const cell of cells) {
    const says = conventionIn(cell);
    if (says === "point") points += 1;
    else if (says === "comma") commas += 1;
    else if (doubtful === null && canBeBoth.test(trimmed(cell).replace(blanks, ""))) doubtful = cell.trim();
  }
  if (points === 0 && commas === 0) {
    // A point before three digits is far more often a decimal point than a mark of thousands.
    const isClear = doubtful?.includes(".") ?? true;
    return { convention: "point", doubtful: isClear ? null : doubtful };
  }
  return { convention: commas > points ? "comma" : "point", doubtful: null };
}

/** The number that a text is in this convention; NaN for one that is none, an empty one included. */
export function numberIn(text: string, convention: Convention): number {
  const digits = trimmed(text).replace(blanks, "");
  if (!shape.test(digits) || !isWellGrouped(trimmed(text))) return Number.NaN;
  const [decimal, group] = convention === "point" ? [".", ","] : [",", "."];
  const [whole = "", ...fraction] = digits.split(decimal);
  if (fraction.length > 1 || fraction[0]?.includes(group)) return Number.NaN;
  const isGrouped = !whole.includes(group) || /^[-+]?\d{1,3}(?:[.,]\d{3})+$/.test(whole);
  if (!isGrouped) return Number.NaN;
  return Number(`${whole.replaceAll(group, "")}${fraction.length > 0 ? `.${fraction[0]}` : ""}`);
}

/** What to say of a number that can be read in two ways. */
export const doubtfulSentence = (text: string): string => {
  const plain = text.replace(/[.,]/, "");
  const small = text.replace(",", ".");
  return `“${text}” can be read as ${plain} or as ${Number(small)}. Write ${plain} or ${Number(small)}.`;
};

/** Reads one number that stands alone, as it is typed: a comma is a decimal comma, and one that can be read in two ways is refused with a sentence. */
export function readNumber(text: string): number | string {
  const { convention, doubtful } = conventionOf([text]);
  if (doubtful !== null) return doubtfulSentence(doubtful);
  const value = numberIn(text, convention);
  return Number.isFinite(value) ? value : `“${text.trim()}” is not a number.`;
}

/** Writes a number with up to so many decimals and no tail of zeros; a minus sign is one. */
export const figure = (value: number, decimals = 4): string =>
  String(Number(value.toFixed(decimals))).replace("-", "−");
