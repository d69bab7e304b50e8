import { expect, test } from "vitest";
import { SnapshotPace } from "./snapshotPace";

/** How many of these ticks of 20 ms the page is shown. */
function shown(pace: SnapshotPace, fromMs: number, ticks: number, movementsAt: (tick: number) => number): number {
  let count = 0;
  for (let tick = 0; tick < ticks; tick += 1)
    if (pace.isDue(fromMs + tick * 20, { movements: movementsAt(tick) })) count += 1;
  return count;
}

test("a bench that moves is shown at every tick, and for a while after; one that rests five times a second", () => {
  const pace = new SnapshotPace();
  expect(shown(pace, 0, 50, (tick) => tick)).toBe(50);
  // Up to 400 ms after the last movement, at 980, then every 200 ms.
  expect(shown(pace, 1000, 19, () => 49)).toBe(19);
  expect(shown(pace, 1400, 50, () => 49)).toBeLessThanOrEqual(6);
  expect(shown(pace, 2400, 5, () => 50)).toBe(5);
});

test("who looks at what goes on by itself is shown every tick of it", () => {
  const pace = new SnapshotPace();
  shown(pace, 0, 100, () => 1);
  pace.isEveryTick = true;
  expect(shown(pace, 2000, 50, () => 1)).toBe(50);
});

test("a clock that was set back does not leave the page without a picture", () => {
  const pace = new SnapshotPace();
  shown(pace, 1_000_000, 50, () => 1);
  expect(shown(pace, 1000, 20, () => 1)).toBeGreaterThan(1);
});
