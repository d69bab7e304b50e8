import { type DeviceMemories, readMemories, readProject } from "@core/files";
import { type Project, routineOfText, schemaVersion, type TakeData, textOfRoutine } from "@core/project";
import { problem, type Result } from "@core/result";
import type { Recorded } from "@core/take";
import Dexie, { type EntityTable, type Table } from "dexie";

/** One project as it lies in the browser's database. Its routines lie beside it, one by one, so that an edit saves only what it changed. */
interface StoredProject {
  readonly id: string;
  readonly name: string;
  /** Milliseconds since 1970. */
  readonly savedAt: number;
  readonly version: number;
  readonly project: unknown;
  /** The order of the routines; absent where an earlier Vantel kept them in the project. */
  readonly routineIds?: readonly string[];
}

interface StoredRoutine {
  readonly projectId: string;
  readonly id: string;
  readonly text: string;
}

/** As an earlier Vantel kept it. */
interface EarlierRoutine {
  readonly projectId: string;
  readonly id: string;
  readonly routine: unknown;
}

interface StoredTake extends TakeData {
  readonly projectId: string;
}

/** What there is of a recording that has not ended yet. */
interface StoredRecording {
  readonly projectId: string;
  readonly recorded: Recorded;
}

export interface ProjectSummary {
  readonly id: string;
  readonly name: string;
  readonly savedAt: number;
}

/** What simulated devices keep without supply; their own affair, and no part of the document. */
interface StoredMemories {
  readonly projectId: string;
  /** Of the project when they were kept; absent up to version 4. */
  readonly version?: number;
  readonly memories: unknown;
}

type ProjectDatabase = Dexie & {
  memories: EntityTable<StoredMemories, "projectId">;
  projects: EntityTable<StoredProject, "id">;
  routines: Table<StoredRoutine | EarlierRoutine, [string, string]>;
  takes: Table<StoredTake, [string, string]>;
  recordings: EntityTable<StoredRecording, "projectId">;
};

/** The projects that this browser keeps. */
export class ProjectStore {
  readonly #db: ProjectDatabase;
  /** What was written last: only what is no longer the same is written again. */
  #written: Project | null = null;
  /** Hears that the browser has cleared all of it: a person told it to, or its disk was full. */
  onCleared: () => void = () => {};

  constructor(name = "vantel") {
    // Strict: a save is over when it is on the disk, and not when it is on its way there. Whoever says “Saved” means it.
    this.#db = new Dexie(name, { chromeTransactionDurability: "strict" }) as ProjectDatabase;
    this.#db.version(1).stores({ projects: "id, savedAt" });
    this.#db.version(2).stores({
      projects: "id, savedAt",
      routines: "[projectId+id], projectId",
      takes: "[projectId+id], projectId",
      recordings: "projectId",
    });
    this.#db.version(3).stores({ memories: "projectId" });
    this.#db.on("close", () => {
      this.#written = null;
      this.onCleared();
    });
  }

  async keepMemories(projectId: string, memories: unknown): Promise<void> {
    await this.#db.memories.put({ projectId, version: schemaVersion, memories });
  }

  /** What the simulated devices of a project kept; empty where none did, or where it cannot be read. */
  async memoriesOf(project: Project): Promise<DeviceMemories> {
    const kept = await this.#db.memories.get(project.id);
    return kept ? readMemories(project, kept.version ?? 4, kept.memories) : {};
  }

  /** Writes what has changed since the last time: the project without its routines, and the routines that are others now. */
  async save(project: Project, savedAt: number): Promise<void> {
    const known = new Set(this.#written?.id === project.id ? this.#written.routines : []);
    const { projects, routines } = this.#db;
    await this.#db.transaction("rw", projects, routines, async () => {
      const kept = new Set(project.routines.map((routine) => routine.id));
      // What really lies there is looked at each time: whatever happened to it, what is saved is whole.
      const there = new Set((await routines.where({ projectId: project.id }).primaryKeys()).map(([, id]) => id));
      const gone = [...there].filter((id) => !kept.has(id));
      const changed = project.routines.filter((routine) => !known.has(routine) || !there.has(routine.id));
      await routines.bulkDelete(gone.map((id) => [project.id, id]));
      await routines.bulkPut(
        changed.map((routine) => ({ projectId: project.id, id: routine.id, text: textOfRoutine(routine) })),
      );
      await projects.put({
        id: project.id,
        name: project.name,
        savedAt,
        version: schemaVersion,
        project: { ...project, routines: [] },
        routineIds: project.routines.map((routine) => routine.id),
      });
    });
    this.#written = project;
  }

  /** The project with this id, checked like one from a file: a store can be damaged too. */
  async open(id: string): Promise<Result<Project>> {
    const stored = await this.#db.projects.get(id);
    if (!stored) return problem("That project is no longer in this browser.");
    if (!stored.routineIds) return readProject(stored.project, stored.version);
    const rows = new Map((await this.#routinesOf(id)).map((row) => [row.id, routineIn(row)]));
    const routines = stored.routineIds.map((routineId) => rows.get(routineId));
    return readProject({ ...(stored.project as object), routines }, stored.version);
  }

  /** A project as it lies there, for one that cannot be opened any more: its text, unread. */
  async asItLies(id: string): Promise<string> {
    const stored = (await this.#db.projects.get(id)) ?? null;
    return JSON.stringify({ stored, routines: await this.#routinesOf(id) }, null, 1);
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

  /** Removes a project and all that lies beside it: all of it or nothing. */
  async remove(id: string): Promise<void> {
    const { projects, routines, takes, recordings, memories } = this.#db;
    await this.#db.transaction("rw", [projects, routines, takes, recordings, memories], async () => {
      await projects.delete(id);
      await routines.where({ projectId: id }).delete();
      await takes.where({ projectId: id }).delete();
      await recordings.delete(id);
      await memories.delete(id);
    });
    if (this.#written?.id === id) this.#written = null;
  }

  /** Keeps the samples of a take; they never change. */
  async saveTake(projectId: string, take: TakeData): Promise<void> {
    await this.#db.takes.put({ projectId, ...take });
  }

  /** The samples of a project's takes. Those that no take of it names any more are removed: nothing can bring them back. */
  async takesOf(project: Project): Promise<TakeData[]> {
    const named = new Set(project.takes.map((take) => take.id));
    const rows = await this.#db.takes.where({ projectId: project.id }).toArray();
    const gone = rows.filter((row) => !named.has(row.id));
    await this.#db.takes.bulkDelete(gone.map((row) => [project.id, row.id]));
    return rows.filter((row) => named.has(row.id)).map(({ id, channels }) => ({ id, channels }));
  }

  /** Keeps what there is of a recording that goes on; null once it has become a take. */
  async keepRecording(projectId: string, recorded: Recorded | null): Promise<void> {
    if (recorded) await this.#db.recordings.put({ projectId, recorded });
    else await this.#db.recordings.delete(projectId);
  }

  /** What is left of a recording that was cut off: by a crash, a reload, an empty battery. */
  async recordingOf(projectId: string): Promise<Recorded | null> {
    return (await this.#db.recordings.get(projectId))?.recorded ?? null;
  }

  #routinesOf = (projectId: string) => this.#db.routines.where({ projectId }).toArray();
}

/** The routine of a row, whatever it is; nothing where its text is damaged, so that the project is told to be. */
function routineIn(row: StoredRoutine | EarlierRoutine): unknown {
  if (!("text" in row)) return row.routine;
  try {
    return routineOfText(row.text);
  } catch {
    return undefined;
  }
}
