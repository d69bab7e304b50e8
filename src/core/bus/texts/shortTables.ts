import { type Layout, type Mode, type Trouble, troubleCauseSchema } from "@core/project";
import { ok, problem, type Result } from "@core/result";
import { numberIn, rowsOf } from "./tableRows";

/** The short tables at the end of a manual, as lines of text like those of `layoutText.ts`: errors, modes, speeds. */
type ErrorKind = Layout["errors"]["kind"];
type BitRate = Layout["bitRates"][number];

export const errorColumns = "bit or code | name | holds on or lets go | cause, where it is one of ours | what to do";
export const modeColumns = "value | kind | clamp or wrap | name";
export const bitRateColumns = "value | bit/s";

const lines = (rows: readonly (readonly (string | number)[])[]): string =>
  rows.map((cells) => cells.join(" | ")).join("\n");

export const writeErrors = (troubles: readonly Trouble[]): string =>
  lines(
    troubles.map(({ value, label, letsGo, cause, hint }) => [
      value,
      label,
      letsGo ? "lets go" : "holds on",
      cause ?? "",
      hint,
    ]),
  );

/** What each bit, or each code, of the error byte of a reply means; an empty text has none. */
export function readErrors(kind: ErrorKind, text: string): Result<Trouble[]> {
  const troubles: Trouble[] = [];
  const name = kind === "bits" ? "bit" : "code";
  for (const { cells, line } of rowsOf(text)) {
    const [number, label = "", then = "", cause = "", hint = ""] = cells;
    const value = numberIn(number);
    if (kind === "bits" && (value === null || value > 7))
      return problem(`Line ${line}: “${number}” is no bit of a byte; they go from 0 to 7.`);
    if (value === null || value > 255 || (kind === "codes" && value === 0))
      return problem(`Line ${line}: “${number}” is no code of a byte; they go from 1 to 255, and 0 is no trouble.`);
    if (troubles.some((other) => other.value === value))
      return problem(`Line ${line}: ${name} ${value} is used twice.`);
    if (label === "") return problem(`Line ${line}: an error has a name.`);
    if (then !== "" && then !== "lets go" && then !== "holds on")
      return problem(`Line ${line}: “${then}” is neither “lets go” nor “holds on”.`);
    const told = cause === "" ? null : troubleCauseSchema.safeParse(cause);
    if (told && !told.success)
      return problem(`Line ${line}: “${cause}” is none of ${troubleCauseSchema.options.join(", ")}.`);
    troubles.push({ value, label, letsGo: then === "lets go", cause: told?.data ?? null, hint });
  }
  return ok(troubles);
}

const modeKinds: readonly Mode["kind"][] = ["position", "multiTurn", "velocity"];
const modeNames: Readonly<Record<Mode["kind"], string>> = {
  position: "position in one turn",
  multiTurn: "position over many turns",
  velocity: "velocity",
};

export const writeModes = (modes: readonly Mode[]): string =>
  lines(modes.map(({ value, kind, atEnd, label }) => [value, kind, atEnd, label]));

/** The modes of a servo; one without a name of its own is called after what it does. */
export function readModes(text: string): Result<Mode[]> {
  const modes: Mode[] = [];
  for (const { cells, line } of rowsOf(text)) {
    const [number, word, atEnd = "", label = ""] = cells;
    const value = numberIn(number);
    if (value === null) return problem(`Line ${line}: “${number}” is no value of a register; write 3 or 0x03.`);
    if (modes.some((other) => other.value === value)) return problem(`Line ${line}: the value ${value} is used twice.`);
    const kind = modeKinds.find((one) => one === word);
    if (!kind) return problem(`Line ${line}: “${word}” is none of ${modeKinds.join(", ")}.`);
    if (atEnd !== "" && atEnd !== "clamp" && atEnd !== "wrap")
      return problem(`Line ${line}: at the end of a turn a goal is held back (clamp) or goes round (wrap).`);
    modes.push({ value, kind, atEnd: atEnd === "wrap" ? "wrap" : "clamp", label: label || modeNames[kind] });
  }
  return ok(modes);
}

export const writeBitRates = (rates: readonly BitRate[]): string =>
  lines(rates.map(({ value, bitsPerS }) => [value, bitsPerS]));

/** Which value of the speed register is which speed. */
export function readBitRates(text: string): Result<BitRate[]> {
  const rates: BitRate[] = [];
  for (const { cells, line } of rowsOf(text)) {
    const value = numberIn(cells[0]);
    const bitsPerS = numberIn(cells[1]?.replaceAll(" ", ""));
    if (value === null || !bitsPerS)
      return problem(`Line ${line}: a speed is a value of its register and bits per second, like 1 | 57600.`);
    if (rates.some((other) => other.value === value)) return problem(`Line ${line}: the value ${value} is used twice.`);
    rates.push({ value, bitsPerS });
  }
  if (rates.length === 0) return problem("A family has one speed at least, like 1 | 57600.");
  return ok(rates);
}
