import { readProject } from "@core/files";
import { type Project, schemaVersion } from "@core/project";
import { problem, type Result } from "@core/result";
import Dexie, { type EntityTable } from "dexie";

/** One project as it lies in the browser's database. */
interface StoredProject {
  readonly id: string;
  readonly name: string;
  /** Milliseconds since 1970. */
  readonly savedAt: number;
  readonly version: number;
  readonly project: unknown;
}

export interface ProjectSummary {
  readonly id: string;
  readonly name: string;
  readonly savedAt: number;
}

type ProjectDatabase = Dexie & { projects: EntityTable<StoredProject, "id"> };

/** The projects that this browser keeps. */
export class ProjectStore {
  readonly #db: ProjectDatabase;

  constructor(name = "vantel") {
    this.#db = new Dexie(name) as ProjectDatabase;
    this.#db.version(1).stores({ projects: "id, savedAt" });
  }

  async save(project: Project, savedAt: number): Promise<void> {
    await this.#db.projects.put({ id: project.id, name: project.name, savedAt, version: schemaVersion, project });
  }

  /** The project with this id, checked like one from a file: a store can be damaged too. */
  async open(id: string): Promise<Result<Project>> {
    const stored = await this.#db.projects.get(id);
    return stored ? readProject(stored.project, stored.version) : problem("That project is no longer in this browser.");
  }

  /** Newest first. */
  async list(): Promise<ProjectSummary[]> {
    const summaries: ProjectSummary[] = [];
    await this.#db.projects
      .orderBy("savedAt")
      .reverse()
      .each(({ id, name, savedAt }) => summaries.push({ id, name, savedAt }));
    return summaries;
  }

  async remove(id: string): Promise<void> {
    await this.#db.projects.delete(id);
  }
}
