import { demoProject } from "@core/demo";
import { applyEdit, emptyRoutine, here, type Pose, type Project, type Routine } from "@core/project";
import { readyScore } from "@core/routine";
import { freshMove, type Move } from "@core/steps";
import { expect, test } from "vitest";
import { examine } from "./examine";
import { mendEdit } from "./mend";
import { stretchToFeasible } from "./stretch";

/** Two poses of the demo's arm, to the left and to the right of a post that stands in its way. */
const pose = (id: string, turntable: number): Pose => ({
  id,
  name: id,
  group: "",
  targets: { turntable, shoulder: 30, elbow: 80, "wrist-tilt": 30, grip: 10 },
});

function bench(steps: readonly Move[], hasPost = true): { project: Project; routine: Routine } {
  const demo = demoProject();
  const routine = { ...emptyRoutine("r", "Over there"), steps };
  const post = {
    id: "post",
    label: "Post",
    kind: "solid",
    place: { ...here, atMm: [0, 20, 40] },
    shape: { kind: "rod", radiusMm: 8, lengthMm: 80 },
    color: "#884422",
  } as const;
  const project: Project = {
    ...demo,
    pads: [],
    leads: [],
    conditions: [],
    poses: [pose("left", -50), pose("right", 50)],
    routines: [routine],
    things: hasPost ? [post] : [],
  };
  return { project, routine };
}

const moves = (second: Partial<Move> = {}): readonly Move[] => [
  { ...freshMove("a", "left"), pace: { kind: "time", moveMs: 3000 }, holdMs: 500 },
  { ...freshMove("b", "right"), pace: { kind: "time", moveMs: 4000 }, holdMs: 500, ...second },
];

function findingsOf(project: Project, kind: string) {
  const routine = project.routines[0] as Routine;
  const score = readyScore(project, routine, new Map());
  if (!score.ok) throw new Error(score.problem);
  return examine(project, score.value, { hasGhost: false }).findings.filter((finding) => finding.kind === kind);
}

test("an arm that sweeps through a post is told where and when, and passes once it is led round", () => {
  const { project } = bench(moves());
  const found = findingsOf(project, "meeting").filter(({ stepId }) => stepId === "b");
  expect(found.map(({ sentence }) => sentence.replace(/ at .*/, ""))).toContain("Other jaw meets Post");
  const first = found[0];
  // Half-way of the sweep is at 3500 + 2000 ms.
  expect(first?.fromMs).toBeGreaterThan(4500);
  expect(first?.toMs).toBeLessThan(6500);
  const mend = found.flatMap(({ mends }) => mends)[0];
  if (!mend) throw new Error("no mend was found");
  const mended = applyEdit(mendEdit(project.routines[0] as Routine, mend), project);
  if (!mended.ok) throw new Error(mended.problem);
  expect(findingsOf(mended.value, "meeting").filter(({ stepId }) => stepId === "b")).toEqual([]);
});

test("without the post nothing is met, and a figure that is not there is not asked", () => {
  expect(findingsOf(bench(moves(), false).project, "meeting")).toEqual([]);
  expect(findingsOf({ ...bench(moves()).project, figures: [] }, "meeting")).toEqual([]);
});

test("a pose that meets something has no mend: it is the pose that must change", () => {
  const { project } = bench([{ ...freshMove("a", "left"), pace: { kind: "time", moveMs: 3000 }, holdMs: 500 }]);
  const onThePost = { ...pose("left", 0), targets: { ...pose("left", 0).targets } };
  const found = findingsOf({ ...project, poses: [onThePost, pose("right", 50)] }, "meeting");
  expect(found.length).toBeGreaterThan(0);
  expect(found.flatMap(({ mends }) => mends)).toEqual([]);
});

test("a straight move goes straight, at its own speed; what it asks of joints is looked at", () => {
  const { project } = bench(moves({ path: { tipId: "trellis-grip", viaMm: null, mmPerS: 50 } }), false);
  const score = readyScore(project, project.routines[0] as Routine, new Map());
  if (!score.ok) throw new Error(score.problem);
  const span = score.value.spans[1];
  // From −50° to 50° of the turntable the hand, so far out, goes along the chord.
  expect(score.value.strays).toEqual([]);
  const turntable = score.value.tracks.find(({ joint }) => project.joints[joint]?.id === "turntable");
  expect(turntable?.valueAt(span?.fromMs ?? 0, 0)).toBe(-50);
  expect(turntable?.valueAt(span?.arriveMs ?? 0, 0)).toBe(50);
  const elbow = score.value.tracks.find(({ joint }) => project.joints[joint]?.id === "elbow");
  // On the chord it has to draw back in the middle: the elbow bends further than in either pose.
  const middleMs = ((span?.fromMs ?? 0) + (span?.arriveMs ?? 0)) / 2;
  expect(elbow?.valueAt(middleMs, 70)).toBeGreaterThan(84);
  const hurried = bench(moves({ path: { tipId: "trellis-grip", viaMm: null, mmPerS: 2000 } }), false).project;
  expect(findingsOf(hurried, "speed").some(({ stepId }) => stepId === "b")).toBe(true);
  expect(findingsOf(project, "speed").some(({ stepId }) => stepId === "b")).toBe(false);
});

test("a way through the arm's own foot is named, with what would pass", () => {
  const path = { tipId: "trellis-grip", viaMm: null, mmPerS: null };
  const { project } = bench(moves({ path }), false);
  const across = {
    ...project,
    poses: [pose("left", -100), { ...pose("right", 79), targets: { ...pose("right", 79).targets } }],
  };
  const [found] = findingsOf(across, "way");
  expect(found?.sentence).toMatch(/^Hand of Trellis cannot pass \d+ % of its way: it stays \d+ mm beside it/);
  const [round, any] = found?.mends ?? [];
  expect([round?.kind, any?.kind]).toEqual(["roundBy", "anyWay"]);
  if (!any) throw new Error("no mend");
  const mended = applyEdit(mendEdit(across.routines[0] as Routine, any), across);
  expect(mended.ok && findingsOf(mended.value, "way")).toEqual([]);
  // A tip that is gone is said as well, and the move goes on.
  const lost = { ...across, figures: across.figures.map((figure) => ({ ...figure, tips: [] })) };
  expect(findingsOf(lost, "way")[0]?.sentence).toContain("not there any more");
});

test("a straight move in too much haste is given time, and is straight still", () => {
  const { project } = bench(moves({ path: { tipId: "trellis-grip", viaMm: null, mmPerS: 2000 } }), false);
  // Each of the ways on offer mends the joint that it is offered for.
  const [worst] = findingsOf(project, "speed").filter(({ stepId }) => stepId === "b");
  expect(worst?.mends.map(({ kind }) => kind)).toEqual(["waySpeed", "moveMs"]);
  for (const mend of worst?.mends ?? []) {
    const mended = applyEdit(mendEdit(project.routines[0] as Routine, mend), project);
    expect(mended.ok && findingsOf(mended.value, "speed").some(({ jointId }) => jointId === worst?.jointId)).toBe(
      false,
    );
  }
  const stretched = stretchToFeasible("r", new Map(), 1).apply(project);
  if (!stretched.ok) throw new Error(stretched.problem);
  expect(findingsOf(stretched.value, "speed")).toEqual([]);
  const step = stretched.value.routines[0]?.steps[1];
  expect(step?.kind === "move" && step.path?.viaMm).toBe(null);
  expect(step?.kind === "move" && (step.path?.mmPerS ?? 0) < 2000).toBe(true);
});
