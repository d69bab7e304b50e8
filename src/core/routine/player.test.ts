import { demoProject } from "@core/demo";
import { emptyRoutine, type Project, type Routine } from "@core/project";
import { freshMove, type Step } from "@core/steps";
import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { type Company, phase, RoutinePlayer, readyScore, type Score } from ".";

const demo = demoProject();
const neck = 0;
const project: Project = {
  ...demo,
  poses: [
    { id: "a", name: "A", group: "", targets: { "neck-turn": 40 } },
    { id: "b", name: "B", group: "", targets: { "neck-turn": -40 } },
  ],
};
const move = (id: string, poseId: string, moveMs = 1000, holdMs = 0): Step => ({
  ...freshMove(id, poseId),
  easing: { kind: "even" },
  pace: { kind: "time", moveMs },
  holdMs,
});
const scoreOf = (change: Partial<Routine>): Score => {
  const made = readyScore(project, { ...emptyRoutine("r", "R"), ...change }, new Map());
  if (!made.ok) throw new Error(made.problem);
  return made.value;
};
const steps = [move("1", "a"), move("2", "b")];
const full = (degPerS: number) => new Float64Array(demo.joints.length).fill(degPerS);

/** A player of one joint that may be led in at 60 °/s and turns at 400 °/s, begun where `stands` says. */
function playing(score: Score, stands = 0, from: { fromMs?: number; isPaused?: boolean } = {}) {
  const wishes = new Float64Array(demo.joints.length);
  wishes[neck] = stands;
  const player = new RoutinePlayer(wishes, full(60), full(400));
  let isMet = false;
  const said: string[] = [];
  const company: Company = { mine: () => true, sayCue: (name) => said.push(name), isMet: () => isMet };
  player.start(score, { fromMs: 0, isPaused: false, isOpenEnded: false, isFromHere: false, ...from }, company);
  return {
    player,
    said,
    company,
    run(ms: number) {
      for (let at = 0; at < ms; at += 20) player.advance(20, company);
    },
    neck: () => wishes[neck] as number,
    put: (deg: number) => {
      wishes[neck] = deg;
    },
    meet: () => {
      isMet = true;
    },
  };
}

test("from where it stands it plays at once: half-way after half a second", () => {
  const one = playing(scoreOf({ steps }), 10);
  expect(one.player.phase).toBe(phase.playing);
  one.run(500);
  expect(one.neck()).toBeCloseTo(25, 6);
  one.run(1600);
  expect(one.neck()).toBe(-40);
  expect(one.player.score).toBeNull();
});

test("from the middle it first goes there: 40° at 60 °/s with soft ends take 40/60 × 1.875 s", () => {
  const one = playing(scoreOf({ steps }), 0, { fromMs: 1000 });
  expect(one.player.phase).toBe(phase.leadIn);
  expect(one.player.phaseMs).toBeCloseTo(1250, 6);
  one.run(620);
  expect(one.neck()).toBeGreaterThan(17);
  expect(one.neck()).toBeLessThan(22);
  one.run(640);
  expect(one.neck()).toBeCloseTo(40, 1);
  one.run(500);
  expect(one.neck()).toBeCloseTo(0, 0);
});

test("a first move too far for its time is led in to where it can begin", () => {
  // 50 ms at 400 °/s, evenly: 20° at most.
  const one = playing(scoreOf({ steps: [move("1", "a", 50)] }), -40);
  expect(one.player.phase).toBe(phase.leadIn);
  let before = one.neck();
  while (one.player.phase === phase.leadIn) {
    one.run(20);
    expect(Math.abs(one.neck() - before)).toBeLessThanOrEqual(60 * 0.02 + 1e-9);
    before = one.neck();
  }
  expect(before).toBeCloseTo(20, 6);
});

test("a first move on a curve that is faster than twice its mean begins nearer still", () => {
  const peaks: Step = { ...move("1", "a", 200), easing: { kind: "overshoot", by: 0.1 } } as Step;
  const one = playing(scoreOf({ steps: [peaks] }), -40);
  one.run(3000);
  const opening = scoreOf({ steps: [peaks] }).tracks[0]?.opening;
  expect(opening?.peakRate).toBeGreaterThan(3);
  const again = playing(scoreOf({ steps: [peaks] }), -40);
  while (again.player.phase === phase.leadIn) again.run(20);
  // 200 ms at 400 °/s are 80° at the curve's peak rate.
  expect(again.neck()).toBeCloseTo(40 - 80 / (opening?.peakRate ?? 1), 6);
});

test("at 50 % it takes twice as long, at 300 % a third", () => {
  for (const [speed, ms] of [
    [0.5, 4000],
    [3, 660],
  ] as const) {
    const one = playing(scoreOf({ steps }));
    one.player.speed = speed;
    one.run(ms);
    expect(one.player.atMs).toBeCloseTo(speed === 3 ? 1980 : 2000, 6);
  }
});

test("three rounds there and back end where they began, and are counted", () => {
  const one = playing(scoreOf({ steps, isThereAndBack: true, repeat: { kind: "times", times: 3 } }));
  one.run(3000);
  expect(one.player.isReturning).toBe(true);
  expect(one.neck()).toBeCloseTo(40, 6);
  one.run(3000);
  expect(one.player.rounds).toBe(1);
  one.run(20_000);
  expect(one.player.score).toBeNull();
  expect(one.neck()).toBeCloseTo(0, 6);
});

test("a round without end goes on from where it ends, without a jump", () => {
  const one = playing(scoreOf({ steps, repeat: { kind: "forever" } }));
  one.run(2000);
  one.run(500);
  expect(one.player.rounds).toBe(1);
  expect(one.neck()).toBeCloseTo(0, 6);
});

test("a round that lasts no time does not turn for ever", () => {
  const one = playing(scoreOf({ steps: [move("1", "a", 0)], repeat: { kind: "forever" } }), 40);
  one.run(200);
  expect(one.player.score).not.toBeNull();
  expect(one.neck()).toBe(40);
});

test("a part is played over and over, with a way back to its beginning each time", () => {
  const one = playing(scoreOf({ steps }), 0);
  one.player.loop = { fromMs: 250, toMs: 750 };
  one.run(760);
  expect(one.player.phase).toBe(phase.leadIn);
  expect(one.player.rounds).toBe(1);
  one.run(2000);
  expect(one.player.rounds).toBeGreaterThan(1);
});

describe("a wait", () => {
  const wait = (timeoutMs: number | null, ifTimeout: "goOn" | "stop"): Step => ({
    kind: "wait",
    id: "w",
    sourceId: "bench-knob",
    side: "above",
    level: 0,
    timeoutMs,
    ifTimeout,
  });
  test("holds still until it is met, however long", () => {
    const one = playing(scoreOf({ steps: [move("1", "a"), wait(null, "goOn"), move("2", "b")] }));
    one.run(60_000);
    expect(one.player.phase).toBe(phase.waiting);
    expect(one.neck()).toBe(40);
    one.meet();
    one.run(520);
    expect(one.neck()).toBeCloseTo(0, 6);
  });
  test("goes on, or stops, when its time is over; a skip passes it at once", () => {
    const on = playing(scoreOf({ steps: [wait(300, "goOn"), move("1", "a")] }));
    on.run(400);
    expect(on.player.phase).toBe(phase.playing);
    const off = playing(scoreOf({ steps: [wait(300, "stop"), move("1", "a")] }));
    off.run(400);
    expect(off.player.score).toBeNull();
    const skipped = playing(scoreOf({ steps: [wait(null, "stop"), move("1", "a")] }));
    skipped.run(100);
    skipped.player.skip(1, skipped.company);
    skipped.run(500);
    expect(skipped.neck()).toBeCloseTo(20, 6);
  });
  test("a pause does not begin its time-out anew", () => {
    const one = playing(scoreOf({ steps: [wait(1000, "goOn"), move("1", "a")] }));
    one.run(700);
    one.player.pause();
    one.run(5000);
    one.player.resume(one.company);
    one.run(200);
    expect(one.player.phase).toBe(phase.waiting);
    expect(one.player.phaseMs).toBe(880);
    one.run(200);
    expect(one.player.phase).toBe(phase.playing);
  });
  test("one that is taken out of the routine takes only itself with it, and time goes on", () => {
    const later = { ...wait(null, "goOn"), id: "later" };
    const both = [move("1", "a"), wait(null, "goOn"), move("2", "b"), later, move("3", "a")];
    const one = playing(scoreOf({ steps: both }));
    one.run(2000);
    expect(one.player.phase).toBe(phase.waiting);
    one.player.replan(scoreOf({ steps: both.filter((step) => step.id !== "w") }), one.company);
    one.run(500);
    expect([one.player.phase, one.player.atMs]).toEqual([phase.playing, 1500]);
    one.run(2000);
    expect([one.player.phase, one.player.atMs]).toEqual([phase.waiting, 2000]);
  });
  test("the second of two at the same moment is still the one that is waited for after an edit", () => {
    const two = [move("1", "a"), wait(100, "goOn"), { ...wait(null, "goOn"), id: "second" }, move("2", "b")];
    const one = playing(scoreOf({ steps: two }));
    one.run(1500);
    one.player.replan(scoreOf({ steps: [...two, move("3", "a")] }), one.company);
    one.run(500);
    expect(one.player.phase).toBe(phase.waiting);
    one.meet();
    one.run(40);
    expect(one.player.phase).toBe(phase.playing);
  });
});

test("time runs over a cue without standing still, and says it once a round", () => {
  const cue = (id: string): Step => ({ kind: "cue", id, name: id });
  const steps = [move("1", "a"), cue("half"), cue("again"), move("2", "b")];
  const one = playing(scoreOf({ steps, repeat: { kind: "times", times: 2 } }));
  const plain = playing(scoreOf({ steps: [move("1", "a"), move("2", "b")], repeat: { kind: "times", times: 2 } }));
  for (const { run } of [one, plain]) run(1100);
  expect([one.said, one.player.atMs]).toEqual([["half", "again"], plain.player.atMs]);
  for (const { run } of [one, plain]) run(9000);
  expect([one.said, one.player.phase]).toEqual([["half", "again", "half", "again"], plain.player.phase]);
});

test("a part that lies behind the moment is gone to softly; so is its beginning after a seek past its end", () => {
  for (const ms of [1900, 100]) {
    const one = playing(scoreOf({ steps }));
    one.run(ms);
    one.player.loop = { fromMs: 100, toMs: 300 };
    if (ms === 100) one.player.seek(1990, one.company);
    for (let at = 0; at < 4000; at += 20) {
      const before = one.neck();
      one.run(20);
      expect(Math.abs(one.neck() - before)).toBeLessThanOrEqual(80 * 0.02 + 1e-9);
    }
    expect(one.player.atMs).toBeLessThanOrEqual(300);
  }
});

test("paused it stands; a joint that was moved meanwhile follows, no faster than is safe, and then it goes on", () => {
  const one = playing(scoreOf({ steps }));
  one.run(500);
  one.player.pause();
  one.run(1000);
  expect(one.neck()).toBeCloseTo(20, 6);
  one.put(-40);
  one.run(100);
  expect(one.neck()).toBeCloseTo(-40 + 6, 6);
  one.player.resume(one.company);
  expect(one.player.phase).toBe(phase.leadIn);
});

test("to the next step, and back: to the beginning of this one, then of the one before", () => {
  const one = playing(scoreOf({ steps }), 0, { isPaused: true });
  one.player.skip(1, one.company);
  expect(one.player.atMs).toBe(1000);
  one.player.seek(1600, one.company);
  one.player.skip(-1, one.company);
  expect(one.player.atMs).toBe(1000);
  one.player.skip(-1, one.company);
  expect(one.player.atMs).toBe(0);
});

test("scrubbing equals playing: wherever it stands still, the joint comes to where playing has it", () => {
  const score = scoreOf({ steps: [move("1", "a", 700, 130), move("2", "b", 900, 50), move("3", "a", 333)] });
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 100 }), (tick) => {
      const played = playing(score);
      played.run(tick * 20);
      const scrubbed = playing(score, 0, { isPaused: true });
      scrubbed.player.seek(tick * 20, scrubbed.company);
      scrubbed.run(8000);
      expect(scrubbed.neck()).toBeCloseTo(played.neck(), 9);
    }),
    { numRuns: 40 },
  );
});

test("whatever is done to it, no tick moves the joint faster than the score or a lead-in does", () => {
  const waits: Step = {
    kind: "wait",
    id: "w",
    sourceId: "bench-knob",
    side: "above",
    level: 0,
    timeoutMs: 400,
    ifTimeout: "goOn",
  };
  const scores = [
    [move("1", "a", 800, 200), move("2", "b", 800)],
    [move("1", "b", 800, 200), move("2", "a", 800)],
    [move("1", "a", 800), waits, move("2", "b", 900)],
    [move("1", "b", 800), waits, { ...waits, id: "w2" }, move("3", "a", 900), move("2", "b", 800, 100)],
    [move("2", "b", 800)],
  ].flatMap((some) =>
    [true, false].map((isThereAndBack) =>
      scoreOf({
        steps: some,
        isThereAndBack,
        repeat: isThereAndBack ? { kind: "times", times: 9 } : { kind: "forever" },
      }),
    ),
  );
  const score = scores[0] as Score;
  // 80° in 800 ms, evenly.
  const fastest = 100;
  const act = fc.oneof(
    fc.record({ kind: fc.constant("replan" as const), to: fc.constantFrom(...scores) }),
    fc.record({ kind: fc.constant("loop" as const), ms: fc.integer({ min: -200, max: 2000 }) }),
    fc.record({ kind: fc.constant("retune" as const), degPerS: fc.constantFrom(10, 60) }),
    fc.record({ kind: fc.constant("seek" as const), ms: fc.integer({ min: 0, max: 2000 }) }),
    fc.constant({ kind: "pause" as const }),
    fc.constant({ kind: "resume" as const }),
    fc.constant({ kind: "skip" as const }),
    fc.record({ kind: fc.constant("run" as const), ms: fc.integer({ min: 20, max: 700 }) }),
  );
  fc.assert(
    fc.property(fc.array(act, { maxLength: 25 }), (acts) => {
      const one = playing(score);
      for (const done of acts) {
        if (done.kind === "seek") one.player.seek(done.ms, one.company);
        else if (done.kind === "pause") one.player.pause();
        else if (done.kind === "resume") one.player.resume(one.company);
        else if (done.kind === "skip") one.player.skip(1, one.company);
        else if (done.kind === "replan") one.player.replan(done.to, one.company);
        else if (done.kind === "loop") one.player.loop = done.ms < 0 ? null : { fromMs: done.ms, toMs: done.ms + 300 };
        else if (done.kind === "retune") one.player.retune(full(done.degPerS), full(400), one.company);
        const ms = done.kind === "run" ? done.ms : 20;
        for (let at = 0; at < ms; at += 20) {
          const before = one.neck();
          one.run(20);
          expect(Math.abs(one.neck() - before)).toBeLessThanOrEqual((fastest * 20) / 1000 + 1.2 + 1e-6);
        }
      }
    }),
  );
});
