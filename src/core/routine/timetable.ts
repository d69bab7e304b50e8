import type { Timetable } from "@core/project";

const minuteMs = 60_000;
const dayMs = 24 * 60 * minuteMs;

/**
 * When a timetable asks for the next start after a moment, in ms since 1970. `armedMs` is when it was armed: the minutes of “every n minutes”
 * are counted from there. `offsetMin` is how far local time is behind UTC, in minutes, as a clock tells it (`Date.getTimezoneOffset`).
 */
export function nextStartMs(timetable: Timetable, afterMs: number, armedMs: number, offsetMin: number): number {
  if (timetable.kind === "every") {
    const everyMs = timetable.minutes * minuteMs;
    return armedMs + (Math.floor((afterMs - armedMs) / everyMs) + 1) * everyMs;
  }
  const localMs = afterMs - offsetMin * minuteMs;
  const midnightMs = Math.floor(localMs / dayMs) * dayMs;
  const starts = timetable.at.map((text) => {
    const [hours, minutes] = text.split(":").map(Number) as [number, number];
    const todayMs = midnightMs + (hours * 60 + minutes) * minuteMs;
    return todayMs > localMs ? todayMs : todayMs + dayMs;
  });
  return Math.min(...starts) + offsetMin * minuteMs;
}
