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
  const clock = { setByMs: 0 };
  bench.dateMs = () => Date.UTC(2026, 10, 23, 12) + nowMs + clock.setByMs;
  const news: string[] = [];
  bench.onNews = (sentence) => news.push(sentence);
  bench.configure(project, 1);
  const snapshot = new Float64Array(snapshotLength(shapeOf(project)));
  let nowMs = 0;
  return {
    bench,
    clock,
    news,
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
  bench.arm(["routine-owl-wakes"]);
  run(everyMs - 100);
  expect(playing()).toBe(noRoutine);
  run(300);
  expect(playing()).toBe(0);
  run(10_000);
  expect(playing()).toBe(noRoutine);
  run(everyMs - 9500);
  expect(playing()).toBe(0);
});

test.each([
  ["slept for three hours", 3 * 3_600_000],
  ["was set on by a day", 86_400_000],
  ["was set back by three hours", -3 * 3_600_000],
])(
  "after the computer's clock %s, nothing that was due meanwhile starts, and the next start is one of its own",
  (_, byMs) => {
    const { bench, run, playing, now, clock } = benchOf();
    run(1000);
    bench.command({ kind: "holdAll" }, now());
    bench.arm(["routine-owl-wakes"]);
    run(everyMs - 5000);
    // Not by a whole number of its rounds: the next start is due in 10 s.
    clock.setByMs = byMs - 5000;
    run(9000);
    expect(playing()).toBe(noRoutine);
    run(1500);
    expect(playing()).toBe(0);
  },
);

test("limp servos stay limp: a timetable holds nothing, and says what did not start; and it is disarmed as it was armed", () => {
  const { bench, run, playing, now, news } = benchOf();
  run(1000);
  bench.arm(["routine-owl-wakes"]);
  run(1.2 * everyMs);
  expect(playing()).toBe(noRoutine);
  expect(news).toEqual([expect.stringMatching(/^“Owl wakes” did not start by its timetable\. ./)]);
  bench.command({ kind: "holdAll" }, now());
  bench.arm([]);
  run(1.2 * everyMs);
  expect(playing()).toBe(noRoutine);
});

test("a timetable that is changed while it is armed is gone by at once; one that only came again keeps its time", () => {
  const { bench, run, playing, now } = benchOf();
  run(1000);
  bench.command({ kind: "holdAll" }, now());
  bench.arm(["routine-owl-wakes"]);
  run(20_000);
  bench.configure(structuredClone(project), 2);
  run(11_000);
  expect(playing()).toBe(0);
  run(9000);
  const every = (minutes: number) => ({ kind: "every" as const, minutes });
  bench.configure({ ...project, routines: project.routines.map((one) => ({ ...one, timetable: every(60) })) }, 3);
  run(2 * everyMs);
  expect(playing()).toBe(noRoutine);
});

test("what plays already is not started over", () => {
  const { bench, run, playing, now } = benchOf();
  run(1000);
  bench.command({ kind: "holdAll" }, now());
  bench.arm(["routine-owl-wakes"]);
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
