import { demoProject } from "@core/demo";
import { byId, emptyRoutine, type Project, type Routine, type TakeLibrary } from "@core/project";
import { freshMove, type Step } from "@core/steps";
import fc from "fast-check";
import { expect, test } from "vitest";
import { jointsOf, readyScore, roundMs, type Score, sampleTrack, stepAt } from ".";

const demo = demoProject();

/** Two poses on two joints of the owl, and routines of one's own. */
const pose = (id: string, targets: Record<string, number>) => ({ id, name: id, group: "", targets });
const project: Project = {
  ...demo,
  poses: [
    pose("a", { "neck-turn": 40, "neck-nod": 20 }),
    pose("b", { "neck-turn": -40 }),
    pose("c", { beak: 10, "neck-turn": 0 }),
  ],
  routines: [],
};
const move = (id: string, poseId: string, change: object = {}): Step =>
  ({ ...freshMove(id, poseId), easing: { kind: "even" }, ...change }) as Step;
const routine = (change: Partial<Routine>): Routine => ({ ...emptyRoutine("r", "R"), ...change });
function ready(change: Partial<Routine>, among: Partial<Project> = {}, takes: TakeLibrary = new Map()): Score {
  const made = readyScore({ ...project, ...among }, routine(change), takes);
  if (!made.ok) throw new Error(made.problem);
  return made.value;
}
const valueAt = (score: Score, jointId: string, ms: number, start?: number) => {
  const place = score.tracks.findIndex((track) => project.joints[track.joint]?.id === jointId);
  return score.tracks[place]?.valueAt(ms, start ?? (score.starts[place] as number)) ?? Number.NaN;
};

test("a move in one second, a hold of half, a move back: the neck at every quarter second", () => {
  const score = ready({ steps: [move("1", "a", { holdMs: 500 }), move("2", "b")] });
  expect(score.lengthMs).toBe(2500);
  expect([0, 250, 500, 1000, 1400, 1500, 2000, 2500].map((ms) => valueAt(score, "neck-turn", ms))).toEqual([
    0, 10, 20, 40, 40, 40, 0, -40,
  ]);
  // The second pose leaves the nod alone.
  expect(valueAt(score, "neck-nod", 2500)).toBe(20);
});

test("from where it stands, not from home, when that is said", () => {
  expect(valueAt(ready({ steps: [move("1", "a")] }), "neck-turn", 500, -20)).toBe(10);
});

test("at 60 °/s the joint with the longest way sets the time: 40° take 667 ms", () => {
  const score = ready({ steps: [move("1", "a", { pace: { kind: "speed", degPerS: 60 } })] });
  expect(score.lengthMs).toBeCloseTo(666.67, 1);
});

test("staggered by 200 ms with one delay of 100: the neck starts at 0, the nod at 300, and the step ends with it", () => {
  const score = ready({ steps: [move("1", "a", { staggerMs: 200, delaysMs: { "neck-nod": 100 } })] });
  expect(score.lengthMs).toBe(1300);
  expect(valueAt(score, "neck-turn", 500)).toBe(20);
  expect([300, 800, 1300].map((ms) => valueAt(score, "neck-nod", ms))).toEqual([0, 10, 20]);
});

test("a routine within a routine, twice, there and back; what follows goes on from where it began", () => {
  const inner = { ...emptyRoutine("inner", "Inner"), steps: [move("i", "b")], isThereAndBack: true };
  const score = ready(
    { steps: [move("1", "a"), { kind: "routine", id: "2", routineId: "inner", times: 2 }, move("3", "c")] },
    { routines: [inner] },
  );
  expect(score.lengthMs).toBe(1000 + 2 * 2000 + 1000);
  expect([1000, 1500, 2000, 2500, 3000, 4000, 5000, 5500].map((ms) => valueAt(score, "neck-turn", ms))).toEqual([
    40, 0, -40, 0, 40, -40, 40, 20,
  ]);
});

test("a routine that plays itself is refused, through however many others", () => {
  const other = {
    ...emptyRoutine("o", "Other"),
    steps: [{ kind: "routine", id: "s", routineId: "r", times: 1 } as Step],
  };
  const self = routine({ steps: [{ kind: "routine", id: "s", routineId: "o", times: 1 }] });
  const made = readyScore({ ...project, routines: [self, other] }, self, new Map());
  expect(made.ok ? "" : made.problem).toContain("plays itself");
});

test("a wait takes no time of the score; a label none either", () => {
  const wait: Step = {
    kind: "wait",
    id: "w",
    sourceId: "bench-knob",
    side: "above",
    level: 5,
    timeoutMs: 100,
    ifTimeout: "goOn",
  };
  const score = ready({ steps: [move("1", "a"), wait, { kind: "label", id: "l", text: "Look" }, move("2", "b")] });
  expect(score.lengthMs).toBe(2000);
  expect(score.halts.map((halt) => halt.atMs)).toEqual([1000]);
  expect(stepAt(score, 999)).toBe(0);
  expect(stepAt(score, 1000)).toBe(3);
});

test("a lane takes the moves' place from its first key to its last; on top it is added", () => {
  const keys = [
    { atMs: 500, target: 20, shape: "line" as const },
    { atMs: 900, target: 60, shape: "step" as const },
    { atMs: 1000, target: 40, shape: "line" as const },
  ];
  const steps = [move("1", "a", { holdMs: 1000 })];
  const over = ready({ steps, lanes: [{ jointId: "neck-turn", mode: "replace", keys }] });
  expect([250, 500, 700, 950, 1000, 1500].map((ms) => valueAt(over, "neck-turn", ms))).toEqual([
    10, 20, 40, 60, 40, 40,
  ]);
  const added = ready({ steps, lanes: [{ jointId: "neck-turn", mode: "add", keys }] });
  expect(valueAt(added, "neck-turn", 700)).toBeCloseTo(28 + 40, 9);
});

const take = {
  id: "t",
  name: "T",
  madeAt: "2026-11-23T10:00:00.000Z",
  frameMs: 20,
  frames: 51,
  jointIds: ["neck-turn"],
};
const samples: TakeLibrary = new Map([
  ["t", { id: "t", channels: { "neck-turn": Float32Array.from({ length: 51 }, (_, at) => at) } }],
]);
const clip = {
  id: "c",
  takeId: "t",
  atMs: 200,
  fromMs: 200,
  toMs: 800,
  stretch: 2,
  fadeInMs: 0,
  fadeOutMs: 0,
  mode: "replace",
  jointIds: null,
  isMuted: false,
} as const;

test("a clip from 200 to 800 ms of its take, twice as slow: half-way it shows the take at 500 ms", () => {
  const score = ready({ clips: [clip] }, { takes: [take] }, samples);
  expect(score.lengthMs).toBe(1400);
  expect(valueAt(score, "neck-turn", 800)).toBeCloseTo(25, 5);
  // Nothing else moves the neck: it waits where the clip will take it up, and stays where that leaves it.
  expect(valueAt(score, "neck-turn", 100)).toBeCloseTo(10, 5);
  expect(valueAt(score, "neck-turn", 1500)).toBeCloseTo(40, 5);
});

test("faded in over 400 ms a clip weighs half after 200; on top it adds its way from where it began", () => {
  const steps = [move("1", "a", { holdMs: 1000 })];
  const faded = ready({ steps, clips: [{ ...clip, fadeInMs: 400 }] }, { takes: [take] }, samples);
  // At 400 ms the move is at 16°, the take at 15°.
  expect(valueAt(faded, "neck-turn", 400)).toBeCloseTo((16 + 15) / 2, 5);
  const added = ready({ steps, clips: [{ ...clip, mode: "add" }] }, { takes: [take] }, samples);
  expect(valueAt(added, "neck-turn", 800)).toBeCloseTo(32 + 15, 5);
  const muted = ready({ steps, clips: [{ ...clip, isMuted: true }] }, { takes: [take] }, samples);
  expect(valueAt(muted, "neck-turn", 800)).toBe(32);
});

test("a clip whose samples are not at hand is named as missing", () => {
  expect(ready({ clips: [clip] }, { takes: [take] }).missing.map((one) => one.id)).toEqual(["c"]);
});

test("without end a routine begins its second round where the first left it: so it is looked at", () => {
  const steps = [move("1", "a"), move("2", "b")];
  expect(ready({ steps, repeat: { kind: "forever" } }).starts[0]).toBe(-40);
  expect(ready({ steps }).starts[0]).toBe(0);
});

test("sampled in order, backwards or at random, a track says the same", () => {
  const score = ready({
    steps: Array.from({ length: 40 }, (_, at) => move(`${at}`, at % 2 ? "a" : "b", { holdMs: 70 })),
  });
  const [track] = score.tracks;
  if (!track) throw new Error("The neck has no track.");
  const inOrder = new Float32Array(500);
  sampleTrack(track, 0, 0, 100, inOrder);
  expect(new Set(inOrder).size).toBeGreaterThan(50);
  fc.assert(
    fc.property(fc.integer({ min: 0, max: 499 }), (at) => Math.fround(track.valueAt(at * 100, 0)) === inOrder[at]),
  );
});

test("the demo's owl takes 8.04 s to wake, with six joints", () => {
  const owl = byId(demo.routines, "routine-owl-wakes");
  const made = readyScore(demo, owl, new Map());
  expect(made.ok && roundMs(made.value)).toBe(8040);
  expect(jointsOf(demo, owl)).toHaveLength(6);
});

test("a move after a take begins where the take left the joint; a lane with nothing before it waits at its first key", () => {
  const score = ready(
    { steps: [{ kind: "hold", id: "h", holdMs: 2000 }, move("1", "b")], clips: [clip] },
    { takes: [take] },
    samples,
  );
  expect([1900, 2000, 2500, 3000].map((ms) => Math.round(valueAt(score, "neck-turn", ms)))).toEqual([40, 40, 0, -40]);
  const keys = [10, 30].map((target, at) => ({ atMs: 1000 + at * 500, target, shape: "line" as const }));
  const lane = ready({ lanes: [{ jointId: "beak", mode: "replace", keys }] });
  expect([0, 900, 1250, 5000].map((ms) => valueAt(lane, "beak", ms))).toEqual([10, 10, 20, 30]);
});
