import { demoProject } from "@core/demo";
import { assemble, led } from "@core/figure";
import { readProjectFile, writeProjectFile } from "@core/files";
import { applyEdit, emptyRoutine, homeTargetOf, type Pose, type Project, type Routine, type Tip } from "@core/project";
import { overTheMiddle, readyScore } from "@core/routine";
import { seededRandom } from "@core/sim";
import { freshMove, type TipPath } from "@core/steps";
import { expect, test } from "vitest";
import { examine } from "./examine";
import type { Mend } from "./mend";
import { mendEdit } from "./mend";

const straight: TipPath = { tipId: "trellis-grip", viaMm: null, mmPerS: null };

const pose = (id: string, targets: Pose["targets"]): Pose => ({ id, name: id, group: "", targets });

/** The demo's arm, going straight from one pose to another, with an elbow that bends both ways. */
function bench(from: Pose["targets"], to: Pose["targets"], path: TipPath): Project {
  const demo = demoProject();
  const pace = { kind: "time", moveMs: 4000 } as const;
  const steps = [
    { ...freshMove("a", "from"), pace },
    { ...freshMove("b", "to"), pace, path },
  ];
  return {
    ...demo,
    pads: [],
    leads: [],
    conditions: [],
    things: [],
    joints: demo.joints.map((joint) =>
      joint.id === "elbow" && joint.axis.kind === "angle"
        ? { ...joint, axis: { ...joint.axis, travel: { low: -130, high: 130 } } }
        : joint,
    ),
    poses: [pose("from", from), pose("to", to)],
    routines: [{ ...emptyRoutine("r", "Over there"), steps }],
  };
}

function waysOf(project: Project) {
  const score = readyScore(project, project.routines[0] as Routine, new Map());
  if (!score.ok) throw new Error(score.problem);
  return examine(project, score.value, { hasGhost: false }).findings.filter(({ kind }) => kind === "way");
}

function mended(project: Project, mend: Mend | undefined): Project {
  if (!mend) throw new Error("no mend");
  const done = applyEdit(mendEdit(project.routines[0] as Routine, mend), project);
  if (!done.ok) throw new Error(done.problem);
  return done.value;
}

test("a hand that cannot keep its direction is told where, and may keep its tilt alone, or point as it comes", () => {
  const stance = { shoulder: 30, elbow: 80, "wrist-tilt": 30 };
  const project = bench(
    { turntable: -50, ...stance },
    { turntable: 60, shoulder: 50, elbow: 40, "wrist-tilt": 40 },
    { ...straight, pointing: "direction" },
  );
  const [found] = waysOf(project);
  expect(found?.sentence).toMatch(
    /^Hand of Trellis cannot keep its direction at \d+ % of its way: it points \d+° else/,
  );
  expect(found?.mends.map(({ kind }) => kind)).toEqual(["keepsTilt", "pointsFreely", "anyWay"]);
  const tilted = mended(project, found?.mends[0]);
  expect(waysOf(tilted)).toEqual([]);
  expect(tilted.routines[0]?.steps[1]).toMatchObject({ path: { ...straight, pointing: "tilt" } });
  expect(mended(project, found?.mends[1]).routines[0]?.steps[1]).toMatchObject({ path: straight });
});

test("a pose with the elbow on the other side is not come to without a leap, and may have the stance that is", () => {
  // Nothing but shoulder and elbow moves, so there are two stances for one place.
  const project = bench({ shoulder: 10, elbow: 100 }, { shoulder: 80, elbow: -60 }, straight);
  const [found] = waysOf(project);
  expect(found?.sentence).toMatch(
    /^Hand of Trellis arrives at its place in another stance than the pose has: Elbow would have to leap by \d+° at the/,
  );
  expect(found?.mends.map(({ kind }) => kind)).toEqual(["arrivesAs", "anyWay"]);
  const better = mended(project, found?.mends[0]);
  expect(waysOf(better)).toEqual([]);
  const arrives = better.poses[1]?.targets as Record<string, number>;
  expect(arrives.elbow).toBeGreaterThan(0);
  // Only what moves the hand is given, and it can be written to a file.
  expect(JSON.parse(JSON.stringify(arrives))).toEqual(arrives);
  expect(Object.keys(arrives).sort()).toEqual(["elbow", "shoulder"]);
});

test("the stance that is offered is the one that was found, to the last digit: rounded it could lie beyond a limit", () => {
  const project = bench({ shoulder: 10, elbow: 100 }, { shoulder: 80, elbow: -60 }, straight);
  const score = readyScore(project, project.routines[0] as Routine, new Map());
  const arrival = score.ok ? score.value.strays[0]?.led?.arrival : null;
  const found = [...(arrival ?? [])].map(([place, target]) => [project.joints[place]?.id, target]);
  expect(found.some(([, target]) => Math.round(Number(target) * 100) / 100 !== target)).toBe(true);
  expect(waysOf(project)[0]?.mends[0]).toMatchObject({ kind: "arrivesAs", targets: Object.fromEntries(found) });
});

test("a move whose hand keeps its tilt comes back from a file", () => {
  const project = bench({ elbow: 100 }, { elbow: 60 }, { ...straight, pointing: "tilt" });
  const back = readProjectFile(writeProjectFile(project));
  expect(back.ok && back.value.project.routines[0]?.steps[1]).toMatchObject({
    path: { ...straight, pointing: "tilt" },
  });
});

test("a way that is to go round begins over the middle of the straight one", () => {
  const stance = { shoulder: 30, elbow: 80, "wrist-tilt": 30 };
  const project = bench({ turntable: -50, ...stance }, { turntable: 30, ...stance }, straight);
  const score = readyScore(project, project.routines[0] as Routine, new Map());
  if (!score.ok) throw new Error(score.problem);
  const over = overTheMiddle(project, score.value, "b", "trellis-grip");
  const assembly = assemble(
    project.figures,
    project.joints.map(({ id }) => id),
  );
  const tip = project.figures[0]?.tips[0] as Tip;
  const standing = (turntable: number) =>
    project.joints.map((joint) => ({ ...stance, turntable })[joint.id as "elbow"] ?? homeTargetOf(joint));
  // A way that is kept to names its beginning as the place where it strays by nothing.
  const [from, to] = [-50, 30].map(
    (turntable) => led(assembly, tip, [], standing(turntable), standing(turntable), null).strays.atMm,
  );
  expect(over).toEqual(
    [0, 1, 2].map((row) => Math.round(((from?.[row] ?? 0) + (to?.[row] ?? 0)) / 2) + (row === 2 ? 50 : 0)),
  );
  expect(overTheMiddle(project, score.value, "none", "trellis-grip")).toBeNull();
});

test("a round way is offered where one was found that passes, and that one does", () => {
  const random = seededRandom(7);
  const between = (low: number, high: number) => Math.round(low + random() * (high - low));
  const stance = () => ({
    turntable: between(-90, 90),
    shoulder: between(-30, 90),
    elbow: between(0, 130),
    "wrist-tilt": between(-60, 60),
  });
  let offered = 0;
  for (let run = 0; run < 40; run += 1) {
    const project = bench(stance(), stance(), straight);
    const round = waysOf(project).flatMap(({ mends }) => mends.filter(({ kind }) => kind === "roundBy"))[0];
    if (!round) continue;
    offered += 1;
    const better = mended(project, round);
    expect(waysOf(better)).toEqual([]);
    expect(JSON.parse(JSON.stringify(better.routines))).toEqual(better.routines);
  }
  expect(offered).toBeGreaterThan(0);
});

test("two joints that change places in the rack are each led as before", () => {
  const from = { turntable: 0, shoulder: 20, elbow: 20, "wrist-tilt": 0 };
  const project = bench(from, { ...from, shoulder: 60, elbow: 60 }, straight);
  const [shoulder, elbow] = ["shoulder", "elbow"].map((id) => project.joints.findIndex((joint) => joint.id === id));
  if (shoulder === undefined || elbow === undefined) throw new Error("no arm");
  // The same limits, so that nothing but their ids tells one from the other.
  const alike = project.joints.map((joint) =>
    joint.id === "shoulder" || joint.id === "elbow" ? { ...joint, axis: project.joints[elbow]?.axis } : joint,
  ) as Project["joints"];
  const swapped = alike.map((joint, at) => alike[at === shoulder ? elbow : at === elbow ? shoulder : at] ?? joint);
  const halfWay = (joints: Project["joints"], id: string) => {
    const score = readyScore({ ...project, joints }, project.routines[0] as Routine, new Map());
    if (!score.ok) throw new Error(score.problem);
    const { fromMs, arriveMs } = score.value.spans[1] ?? { fromMs: 0, arriveMs: 0 };
    const track = score.value.tracks.find((one) => joints[one.joint]?.id === id);
    return track?.valueAt((fromMs + arriveMs) / 2, 0);
  };
  const before = ["shoulder", "elbow"].map((id) => halfWay(alike, id));
  expect(before[0]).not.toBeCloseTo(before[1] ?? 0, 1);
  expect(["shoulder", "elbow"].map((id) => halfWay(swapped, id))).toEqual(before);
});
