import { ok, problem, type Result } from "@core/result";
import { en } from "zod/locales";
import { config } from "zod/mini";

// The small Zod has no words of its own; a refused file must say what was expected.
config(en());

const largestFile = 50_000_000;

/** A file of ours: what it says it is, its version, and the rest of it. */
export interface OwnFile {
  readonly version: number;
  readonly body: Readonly<Record<string, unknown>>;
}

/** Reads the JSON of a file that says it is of this format. `name` is what such a file is called in a sentence: "Vantel project". */
export function readOwnFile(text: string, format: string, name: string): Result<OwnFile> {
  if (text.length > largestFile) return problem(`This file is larger than 50 MB; no ${name} is. It was not opened.`);
  const parsed = parse(text);
  if (!parsed.ok) return parsed;
  const file = parsed.value;
  if (!isRecord(file) || file.format !== format)
    return problem(`This is not a ${name}: “format” should be “${format}”.`);
  if (typeof file.version !== "number" || !Number.isInteger(file.version) || file.version < 1)
    return problem("The file is damaged at “version”: it should be a whole number from 1.");
  return ok({ version: file.version, body: file });
}

export const isRecord = (value: unknown): value is Record<string, unknown> =>
  typeof value === "object" && value !== null && !Array.isArray(value);

function parse(text: string): Result<unknown> {
  try {
    return ok(JSON.parse(text));
  } catch (error) {
    return problem(`The file is not whole JSON: it breaks off ${placeOf(error, text)}. It may have been cut short.`);
  }
}

/** Line and column of a JSON error, from the position that the JavaScript engine names; else the end of the file. */
function placeOf(error: unknown, text: string): string {
  const named = /position (\d+)/.exec(String(error))?.[1];
  const before = text.slice(0, named === undefined ? text.length : Number(named)).split("\n");
  return `at line ${before.length}, character ${(before.at(-1)?.length ?? 0) + 1}`;
}
