import { checkProject, type Project, projectSchema, schemaVersion } from "@core/project";
import { problem, type Result } from "@core/result";
import { readOwnFile } from "./json";
import { migrations } from "./migrations";

/** What a project file says it is, so that no other JSON is mistaken for one. */
export const projectFormat = "vantel-project";

/** The whole project as one JSON file, readable by a person. See docs/file-format.md. */
export function writeProjectFile(project: Project): string {
  return `${JSON.stringify({ format: projectFormat, version: schemaVersion, project }, null, 2)}\n`;
}

/**
 * Reads a project file of this or an earlier version. A damaged, foreign or too new file is refused with a sentence
 * that says where it went wrong.
 */
export function readProjectFile(text: string): Result<Project> {
  const file = readOwnFile(text, projectFormat, "Vantel project");
  return file.ok ? readProject(file.value.body.project, file.value.version) : file;
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
