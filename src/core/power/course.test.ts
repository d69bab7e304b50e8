import { emptyRoutine, type Project, type Routine } from "@core/project";
import { readyScore } from "@core/routine";
import { seededRandom } from "@core/sim";
import { freshMove, type Step } from "@core/steps";
import { expect, test } from "vitest";
import { compared, courseOf, lastsHours } from ".";
import { adapter, bench, demo, joint, rail, supply, wire } from "./fixtures";

/** How warm the wire to the first servo gets, and what it carries at the most, in A. */
const warmth = (project: Project) => {
  const { heatA, most } = course(project).runs["to-j0"] ?? { heatA: Number.NaN, most: { value: Number.NaN } };
  return { heatA, mostA: most.value };
};

const none = new Map();

/** A bench of plain servos on one rail behind 0.1 Ω, with poses of theirs and a routine. */
function playing(
  count: number,
  steps: readonly Step[],
  targets: readonly (readonly number[])[],
  limitMa = 50_000,
): Project {
  const ids = Array.from({ length: count }, (_, at) => `j${at}`);
  const base = bench(count, {
    supplies: [adapter("s", 5, limitMa)],
    rails: [{ id: "r", label: "Rail" }],
    runs: [wire("in", supply("s"), rail("r"), 0.1), ...ids.map((id) => wire(`to-${id}`, rail("r"), joint(id), 0.05))],
  });
  const poses = targets.map((values, at) => ({
    id: `p${at}`,
    name: `P${at}`,
    group: "",
    targets: Object.fromEntries(values.map((value, index) => [`j${index}`, value])),
  }));
  const routine: Routine = { ...emptyRoutine("r", "R"), steps: [...steps] };
  return { ...base, poses, routines: [routine] };
}
const move = (id: string, poseId: string, moveMs: number, change: object = {}): Step =>
  ({ ...freshMove(id, poseId), pace: { kind: "time", moveMs }, ...change }) as Step;
const course = (project: Project, charge = 1) => {
  const score = readyScore(project, project.routines[0] as Routine, none);
  if (!score.ok) throw new Error(score.problem);
  return courseOf(project, score.value, { charge });
};

test("one servo: it begins with its stall current, turns with 0.2 A, and stands with 10 mA", () => {
  const project = playing(1, [move("a", "p0", 10), move("b", "p1", 1000, { holdMs: 1000 })], [[0], [60]]);
  const { supplies, servos, stepMs } = course(project);
  const given = supplies[0]?.givenMa ?? new Float32Array();
  // A stalled servo of 1 A at 5 V is 5 Ω; with 0.15 Ω before it that is 0.971 A, and 4.854 V reach it.
  expect(supplies[0]?.most.value).toBeCloseTo(5 / 5.15, 3);
  expect(servos.j0?.least.value).toBeCloseTo(5 * (5 / 5.15), 3);
  expect(given[Math.round(500 / stepMs)]).toBeCloseTo(1000 * (5 / 25.15), 0);
  expect(given.at(-3)).toBeCloseTo(1000 * (5 / 500.15), 1);
});

test("a wire is warmed by what it carries on and on, not by the moment a routine begins with", () => {
  // A start of 60 ms with 0.971 A, 0.94 s with 0.199 A, then 9 s with 10 mA: the root of the mean square is 0.094 A; it swings about that as it warms and cools.
  const steps = [move("b", "p1", 1000, { holdMs: 9000 })];
  const { heatA, mostA } = warmth(playing(1, steps, [[0], [60]]));
  expect(mostA).toBeCloseTo(0.971, 2);
  expect(heatA).toBeGreaterThan(0.094);
  expect(heatA).toBeLessThan(0.13);
  // As long a round again and again, or one that lasts ten minutes of the same: the same warmth.
  const long = Array.from({ length: 60 }, (_, at) =>
    move(`s${at}`, at % 2 === 0 ? "p1" : "p0", 1000, { holdMs: 9000 }),
  );
  expect(warmth(playing(1, long, [[0], [60]])).heatA).toBeCloseTo(heatA, 2);
});

test("a supply that is asked for too much breaks down, and the board behind it starts anew", () => {
  const steps = [move("a", "p0", 10), move("b", "p1", 800, { holdMs: 3000 }), move("c", "p0", 800)];
  const weak = playing(
    4,
    steps,
    [
      [0, 0, 0, 0],
      [50, 50, 50, 50],
    ],
    2000,
  );
  const board = weak.boards[0];
  const fed: Project = {
    ...weak,
    runs: [...weak.runs, wire("board", rail("r"), { kind: "board", id: board?.id ?? "" }, 0.05)],
  };
  const { boards, supplies } = course(fed);
  expect(boards[board?.id ?? ""]?.resets).toHaveLength(2);
  expect(supplies[0]?.limitedMs).toBeGreaterThan(0);
  expect(supplies[0]?.most.value).toBeLessThanOrEqual(2.001);
});

test("starting one after another never raises a peak, slower moves neither; more copper raises what reaches each servo", () => {
  for (let seed = 1; seed <= 40; seed += 1) {
    const random = seededRandom(seed);
    const count = 2 + Math.floor(random() * 6);
    const pose = () => Array.from({ length: count }, () => Math.round(random() * 120 - 60));
    const steps = Array.from({ length: 4 }, (_, at) =>
      move(`m${at}`, `p${Math.floor(random() * 3)}`, 300 + Math.round(random() * 900), {
        holdMs: 300 + Math.round(random() * 400),
      }),
    );
    const [asIs, ...others] = compared(playing(count, steps, [pose(), pose(), pose()]), "r", none, 1);
    for (const { change, mostA, leastV } of others) {
      if (change === "thicker")
        for (const [id, value] of Object.entries(leastV))
          expect(value).toBeGreaterThanOrEqual((asIs?.leastV[id] ?? 9) - 1e-9);
      else expect(mostA.s, `${seed} ${change}`).toBeLessThanOrEqual((asIs?.mostA.s ?? 0) + 1e-9);
    }
  }
});

test("an arm's servos draw more while it is stretched out than drawn in", () => {
  const held = (elbow: number): number => {
    const routine = { ...emptyRoutine("r", "R"), steps: [move("a", "p", 100, { holdMs: 1000 })] };
    const poses = [{ id: "p", name: "P", group: "", targets: { shoulder: 80, elbow } }];
    const { supplies } = course({ ...demo, poses, routines: [routine], pads: [], leads: [] });
    return supplies.find(({ supplyId }) => supplyId === "supply-arm")?.givenMa.at(-3) ?? 0;
  };
  expect(held(0)).toBeGreaterThan(held(120) + 10);
});

test("2 Ah at half an ampere are four hours", () => {
  expect(lastsHours(2000, 0.5)).toBe(4);
  expect(lastsHours(2000, 0)).toBe(Number.POSITIVE_INFINITY);
});
