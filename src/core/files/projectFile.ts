import {
  checkProject,
  type Project,
  projectSchema,
  schemaVersion,
  type TakeData,
  type TakeLibrary,
} from "@core/project";
import { ok, problem, type Result } from "@core/result";
import { isRecord, readOwnFile } from "./json";
import { migrations } from "./migrations";

/** What a project file says it is, so that no other JSON is mistaken for one. */
export const projectFormat = "vantel-project";

/** A project as it comes out of a file: with the samples of its takes. */
export interface ProjectFile {
  readonly project: Project;
  readonly takes: readonly TakeData[];
}

/** The whole project as one JSON file, readable by a person. See docs/file-format.md. Samples are kept to a thousandth of a degree. */
export function writeProjectFile(project: Project, takes: TakeLibrary = new Map()): string {
  const samples = Object.fromEntries(
    project.takes.flatMap(({ id }) => {
      const data = takes.get(id);
      return data
        ? [[id, Object.fromEntries(Object.entries(data.channels).map(([joint, all]) => [joint, short(all)]))]]
        : [];
    }),
  );
  const told = { format: projectFormat, version: schemaVersion, project };
  // A line a channel: a person can read the project, and nobody reads samples. The two are written apart, so that no word of a person is taken for a sample.
  const head = JSON.stringify(told, null, 2).replace(/\n}$/, "");
  return `${head},\n  "samples": ${sampleLines(samples)}\n}\n`;
}

type Samples = Readonly<Record<string, Readonly<Record<string, readonly number[]>>>>;

function sampleLines(samples: Samples): string {
  const takes = Object.entries(samples).map(([takeId, channels]) => {
    const rows = Object.entries(channels).map(([joint, row]) => `      ${JSON.stringify(joint)}: [${row.join()}]`);
    return `    ${JSON.stringify(takeId)}: {${rows.length > 0 ? `\n${rows.join(",\n")}\n    ` : ""}}`;
  });
  return takes.length > 0 ? `{\n${takes.join(",\n")}\n  }` : "{}";
}

const short = (samples: Float32Array): number[] => Array.from(samples, (one) => Math.round(one * 1000) / 1000);

/**
 * Reads a project file of this or an earlier version. A damaged, foreign or too new file is refused with a sentence
 * that says where it went wrong.
 */
export function readProjectFile(text: string): Result<ProjectFile> {
  const file = readOwnFile(text, projectFormat, "Vantel project");
  if (!file.ok) return file;
  const project = readProject(file.value.body.project, file.value.version);
  if (!project.ok) return project;
  const takes = readSamples(project.value, file.value.body.samples ?? {});
  return takes.ok ? ok({ project: project.value, takes: takes.value }) : takes;
}

/** The samples of all takes of a project; a take without them, or with others than it says, is refused. */
function readSamples(project: Project, samples: unknown): Result<TakeData[]> {
  const takes: TakeData[] = [];
  for (const take of project.takes) {
    const own = isRecord(samples) ? samples[take.id] : undefined;
    const channels: Record<string, Float32Array> = {};
    for (const jointId of take.jointIds) {
      const row = isRecord(own) ? own[jointId] : undefined;
      if (!Array.isArray(row) || row.length !== take.frames || !row.every(Number.isFinite))
        return problem(
          `The file is damaged at samples → ${take.id} → ${jointId}: ${take.frames} numbers should be there.`,
        );
      channels[jointId] = Float32Array.from(row);
    }
    takes.push({ id: take.id, channels });
  }
  return ok(takes);
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
