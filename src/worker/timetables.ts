import type { Project } from "@core/project";
import { nextStartMs } from "@core/routine";

/** The timetables that a person has armed: which routine is to start when. All moments are in ms since 1970. */
export class Timetables {
  #armed = new Map<string, { readonly sinceMs: number; nextMs: number }>();

  /** Arms these routines, and no others. What is armed already keeps its time. */
  arm(routineIds: readonly string[], atMs: number): void {
    const before = this.#armed;
    this.#armed = new Map(routineIds.map((id) => [id, before.get(id) ?? { sinceMs: atMs, nextMs: Number.NaN }]));
  }

  get isArmed(): boolean {
    return this.#armed.size > 0;
  }

  /** The routines that are to start now. What was due while the bench was held up is due once. */
  due(atMs: number, project: Project | null): readonly string[] {
    if (this.#armed.size === 0) return nothing;
    const due: string[] = [];
    for (const [id, armed] of this.#armed) {
      const timetable = project?.routines.find((routine) => routine.id === id)?.timetable;
      if (!timetable) continue;
      const offsetMin = new Date(atMs).getTimezoneOffset();
      const isDue = atMs >= armed.nextMs;
      if (isDue || Number.isNaN(armed.nextMs)) armed.nextMs = nextStartMs(timetable, atMs, armed.sinceMs, offsetMin);
      if (isDue) due.push(id);
    }
    return due;
  }
}

const nothing: readonly string[] = [];
