import { demoProject } from "@core/demo";
import { headOf, shapeOf, snapshotLength } from "@core/engine";
import { noRoutine } from "@core/routine";
import { expect, test } from "vitest";
import { Bench } from "./bench";

const demo = demoProject();
const everyMs = 30_000;
/** The owl wakes every half minute, once it is armed. It takes 8 s. */
const project = {
  ...demo,
  routines: demo.routines.map((routine) => ({
    ...routine,
    timetable: { kind: "every" as const, minutes: everyMs / 60_000 },
  })),
};

function benchOf() {
  const bench = new Bench();
  bench.epochMs = Date.UTC(2026, 10, 23, 12);
  bench.configure(project, 1);
  const snapshot = new Float64Array(snapshotLength(shapeOf(project)));
  let nowMs = 0;
  return {
    bench,
    run(ms: number) {
      for (const endMs = nowMs + ms; nowMs < endMs; nowMs += 20) bench.tick(nowMs);
      bench.write(snapshot);
    },
    now: () => nowMs,
    playing: () => headOf(snapshot, "routineIndex"),
  };
}

test("nothing starts that nobody armed", () => {
  const { bench, run, playing } = benchOf();
  bench.command({ kind: "holdAll" }, 0);
  run(1.2 * everyMs);
  expect(playing()).toBe(noRoutine);
});

test("armed, it starts after half a minute, ends, and starts again half a minute later", () => {
  const { bench, run, playing, now } = benchOf();
  run(1000);
  bench.command({ kind: "holdAll" }, now());
  bench.arm(["routine-owl-wakes"], now());
  run(everyMs - 100);
  expect(playing()).toBe(noRoutine);
  run(300);
  expect(playing()).toBe(0);
  run(10_000);
  expect(playing()).toBe(noRoutine);
  run(everyMs - 9500);
  expect(playing()).toBe(0);
});

test("limp servos stay limp: a timetable holds nothing; and it is disarmed as it was armed", () => {
  const { bench, run, playing, now } = benchOf();
  run(1000);
  bench.arm(["routine-owl-wakes"], now());
  run(1.2 * everyMs);
  expect(playing()).toBe(noRoutine);
  bench.command({ kind: "holdAll" }, now());
  bench.arm([], now());
  run(1.2 * everyMs);
  expect(playing()).toBe(noRoutine);
});

test("what plays already is not started over", () => {
  const { bench, run, playing, now } = benchOf();
  run(1000);
  bench.command({ kind: "holdAll" }, now());
  bench.arm(["routine-owl-wakes"], now());
  bench.command({ kind: "play", routineId: "routine-tray" }, now());
  run(1.2 * everyMs);
  expect(playing()).toBe(1);
});

test("a take recorded on the bench comes out once, whole", () => {
  const { bench, run, now } = benchOf();
  run(1000);
  bench.command({ kind: "holdAll" }, now());
  run(200);
  bench.command({ kind: "record", jointIds: ["beak"], routineId: null, fromMs: 0, countInMs: 0, punch: null }, now());
  run(60_000);
  bench.command({ kind: "endRecord" }, now());
  const recorded = bench.takeRecorded();
  expect(recorded?.channels[0]?.length).toBeGreaterThan(2990);
  expect(bench.takeRecorded()).toBeNull();
});
