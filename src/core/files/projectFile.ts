import { checkProject, type Project, projectSchema, schemaVersion } from "@core/project";
import { ok, problem, type Result } from "@core/result";
import { en } from "zod/locales";
import { config } from "zod/mini";
import { migrations } from "./migrations";

// The small Zod has no words of its own; a refused file must say what was expected.
config(en());

/** What a project file says it is, so that no other JSON is mistaken for one. */
export const projectFormat = "vantel-project";
const largestFile = 50_000_000;

/** The whole project as one JSON file, readable by a person. See docs/file-format.md. */
export function writeProjectFile(project: Project): string {
  return `${JSON.stringify({ format: projectFormat, version: schemaVersion, project }, null, 2)}\n`;
}

/**
 * Reads a project file of this or an earlier version. A damaged, foreign or too new file is refused with a sentence
 * that says where it went wrong.
 */
export function readProjectFile(text: string): Result<Project> {
  if (text.length > largestFile) return problem("This file is larger than 50 MB; no project is. It was not opened.");
  const parsed = parse(text);
  if (!parsed.ok) return parsed;
  const file = parsed.value;
  if (!isRecord(file) || file.format !== projectFormat)
    return problem(`This is not a Vantel project: “format” should be “${projectFormat}”.`);
  if (typeof file.version !== "number" || !Number.isInteger(file.version) || file.version < 1)
    return problem("The file is damaged at “version”: it should be a whole number from 1.");
  return readProject(file.project, file.version);
}

/** Takes a project of some version from outside (a file, a store) in: its shape, then what its parts say of each other. */
export function readProject(value: unknown, version: number): Result<Project> {
  if (version > schemaVersion)
    return problem(
      `This is of version ${version}; this Vantel reads up to version ${schemaVersion}. Open it with a newer Vantel.`,
    );
  const read = projectSchema.safeParse(migrations.slice(version - 1).reduce((older, migrate) => migrate(older), value));
  if (read.success) {
    const checked = checkProject(read.data);
    return checked.ok ? checked : problem(`The project is damaged at ${checked.problem}`);
  }
  const issue = read.error.issues[0];
  const where = issue?.path.length ? issue.path.join(" → ") : "its top";
  return problem(`The project is damaged at ${where}: ${issue?.message ?? "it cannot be read"}.`);
}

const isRecord = (value: unknown): value is Record<string, unknown> =>
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
