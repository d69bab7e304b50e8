/**
 * A number with its decimal point moved, as text: mm become m without a digit being lost, so that what is written and read again is the same number.
 */
export function shifted(value: number, places: number): string {
  const [digits = "0", exponent = "0"] = String(value).split("e");
  const sign = digits.startsWith("-") ? "-" : "";
  const [whole = "0", fraction = ""] = digits.replace("-", "").split(".");
  const all = whole + fraction;
  const point = whole.length + Number(exponent) + places;
  if (Number(all) === 0) return "0";
  if (Math.abs(point) > 25) return `${digits}e${Number(exponent) + places}`;
  const padded = point <= 0 ? "0".repeat(1 - point) + all : all.padEnd(point, "0");
  const at = Math.max(point, 1);
  const text = `${padded.slice(0, at).replace(/^0+(?=\d)/, "")}.${padded.slice(at)}`.replace(/\.?0*$/, "");
  return sign + text;
}

/** The number of such a text, with its point moved back; NaN for what is none. */
export function unshifted(text: string, places: number): number {
  const found = /^\s*([-+]?(?:\d+\.?\d*|\.\d+))(?:e([-+]?\d+))?\s*$/i.exec(text);
  if (!found) return Number.NaN;
  return Number(`${found[1]}e${Number(found[2] ?? 0) + places}`);
}

/** Degrees as radians, with all their digits. */
export const radians = (deg: number): string => String((deg * Math.PI) / 180);

/** Radians as degrees, to a thousand-millionth: what was written as degrees is read as the same. */
export const degrees = (rad: number): number => Math.round(((rad * 180) / Math.PI) * 1e9) / 1e9 + 0;
