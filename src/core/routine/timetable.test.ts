import fc from "fast-check";
import { expect, test } from "vitest";
import { nextStartMs } from ".";

const minuteMs = 60_000;
const hourMs = 60 * minuteMs;

test("every ten minutes counts from when it was armed; at 20:00 is today or tomorrow, in local time", () => {
  const every = { kind: "every", minutes: 10 } as const;
  expect(nextStartMs(every, 25 * minuteMs, 3 * minuteMs, () => 0)).toBe(33 * minuteMs);
  // Armed by a clock that has been set back since.
  expect(nextStartMs(every, 3 * minuteMs, 125 * minuteMs, () => 0)).toBe(5 * minuteMs);
  const noon = Date.UTC(2026, 10, 23, 12);
  const hoursTo = (at: string[], offsetMin: number) =>
    (nextStartMs({ kind: "daily", at }, noon, 0, () => offsetMin) - noon) / hourMs;
  expect(hoursTo(["20:00"], 0)).toBe(8);
  expect(hoursTo(["20:00"], -60)).toBe(7);
  expect(hoursTo(["11:30", "09:00"], 0)).toBe(21);
});

/** Clocks as in much of the north: an hour is put in at 3:00 on the 25th of October, and one left out at 2:00 on the 28th of March. */
const offsetMinAt = (atMs: number) =>
  atMs < Date.UTC(2026, 9, 25, 1) || atMs >= Date.UTC(2027, 2, 28, 1) ? -120 : -60;

test.each([
  [
    "the evening before clocks are put back, nine is nine of the new time",
    Date.UTC(2026, 9, 24, 20),
    "09:00",
    Date.UTC(2026, 9, 25, 8),
  ],
  [
    "the evening before clocks are put on, nine is nine of the new time",
    Date.UTC(2027, 2, 27, 20),
    "09:00",
    Date.UTC(2027, 2, 28, 7),
  ],
  ["before that hour it is as ever", Date.UTC(2026, 9, 24, 20), "01:30", Date.UTC(2026, 9, 24, 23, 30)],
  ["an hour that comes twice starts the first time", Date.UTC(2026, 9, 24, 20), "02:30", Date.UTC(2026, 9, 25, 0, 30)],
  ["and not again the second time", Date.UTC(2026, 9, 25, 0, 30), "02:30", Date.UTC(2026, 9, 26, 1, 30)],
])("%s", (_, afterMs, at, startMs) => {
  expect(nextStartMs({ kind: "daily", at: [at] }, afterMs, 0, offsetMinAt)).toBe(startMs);
});

test("whenever it is asked, the next start lies ahead, within a day and an hour, and clocks show what it says", () => {
  fc.assert(
    fc.property(
      fc.integer({ min: Date.UTC(2026, 9, 20), max: Date.UTC(2027, 3, 5) }),
      fc.integer({ min: 0, max: 23 }),
      fc.integer({ min: 0, max: 59 }),
      (afterMs, hours, minutes) => {
        const at = `${String(hours).padStart(2, "0")}:${String(minutes).padStart(2, "0")}`;
        const startMs = nextStartMs({ kind: "daily", at: [at] }, afterMs, 0, offsetMinAt);
        expect(startMs).toBeGreaterThan(afterMs);
        expect(startMs - afterMs).toBeLessThanOrEqual(25 * hourMs);
        const shown = new Date(startMs - offsetMinAt(startMs) * minuteMs).toISOString().slice(11, 16);
        // The hour that is left out is shown by no clock: then it is an hour off.
        if (startMs < Date.UTC(2027, 2, 27, 23) || startMs > Date.UTC(2027, 2, 28, 2)) expect(shown).toBe(at);
      },
    ),
  );
});
