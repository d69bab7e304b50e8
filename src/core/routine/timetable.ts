import type { Timetable } from "@core/project";

const minuteMs = 60_000;
const dayMs = 24 * 60 * minuteMs;

/** How far local time is behind UTC at a moment, in minutes, as a clock tells it (`Date.getTimezoneOffset`). */
export type OffsetMinAt = (atMs: number) => number;

/**
 * When a timetable asks for the next start after a moment, in ms since 1970. `armedMs` is when it was armed: the minutes of “every n minutes” are counted from
 * there. What is told by the hour is so on the clocks of the day on which it comes, also where they are put on or back before.
 */
export function nextStartMs(timetable: Timetable, afterMs: number, armedMs: number, offsetMinAt: OffsetMinAt): number {
  if (timetable.kind === "every") {
    const everyMs = timetable.minutes * minuteMs;
    return armedMs + (Math.floor((afterMs - armedMs) / everyMs) + 1) * everyMs;
  }
  const hereMs = offsetMinAt(afterMs) * minuteMs;
  const midnightMs = Math.floor((afterMs - hereMs) / dayMs) * dayMs;
  /** When clocks show this: by the time that holds then, and not by the one that holds now. */
  const whenShown = (localMs: number) => localMs + offsetMinAt(localMs + hereMs) * minuteMs;
  const starts = timetable.at.flatMap((text) => {
    const [hours, minutes] = text.split(":").map(Number) as [number, number];
    return [0, 1, 2].map((days) => whenShown(midnightMs + days * dayMs + (hours * 60 + minutes) * minuteMs));
  });
  return Math.min(...starts.filter((ms) => ms > afterMs));
}
