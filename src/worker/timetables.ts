import type { Project, Timetable } from "@core/project";
import { nextStartMs } from "@core/routine";
import { dequal } from "dequal";

interface Armed {
  readonly sinceMs: number;
  timetable: Timetable | null;
  nextMs: number;
}

/** What was due longer ago starts no more: the computer slept meanwhile, or its clock was set. */
const lateAtMostMs = 60_000;

const offsetMinAt = (atMs: number) => new Date(atMs).getTimezoneOffset();

/** The timetables that a person has armed: which routine is to start when. All moments are in ms since 1970, as the clock of the computer has them. */
export class Timetables {
  #armed = new Map<string, Armed>();
  #lookedMs = Number.NEGATIVE_INFINITY;

  /** Arms these routines, and no others. What is armed already keeps its time. */
  arm(routineIds: readonly string[], atMs: number): void {
    const before = this.#armed;
    const afresh = (): Armed => ({ sinceMs: atMs, timetable: null, nextMs: Number.NaN });
    this.#armed = new Map(routineIds.map((id) => [id, before.get(id) ?? afresh()]));
  }

  get isArmed(): boolean {
    return this.#armed.size > 0;
  }

  /** The routines that are to start now. What was due while the bench was held up for a while is due once. */
  due(atMs: number, project: Project | null): readonly string[] {
    if (this.#armed.size === 0) return nothing;
    // By a clock that was set back, what was worked out before may lie hours ahead.
    const isSetBack = atMs < this.#lookedMs - lateAtMostMs;
    this.#lookedMs = atMs;
    const due: string[] = [];
    for (const [id, armed] of this.#armed) {
      const timetable = project?.routines.find((routine) => routine.id === id)?.timetable;
      if (!timetable) continue;
      const isOther = timetable !== armed.timetable && !dequal(timetable, armed.timetable);
      armed.timetable = timetable;
      const isDue = !isOther && !isSetBack && atMs >= armed.nextMs;
      if (isDue && atMs - armed.nextMs < lateAtMostMs) due.push(id);
      if (isDue || isOther || isSetBack) armed.nextMs = nextStartMs(timetable, atMs, armed.sinceMs, offsetMinAt);
    }
    return due;
  }
}

const nothing: readonly string[] = [];
