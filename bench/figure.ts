import { demoProject } from "../src/core/demo";
import { examine } from "../src/core/feasible";
import { assemble, assemblyOf, Chain, freeJoints, Inverse, Meetings, stand, standing } from "../src/core/figure";
import { emptyRoutine, type Figure, here, type Part, type Project } from "../src/core/project";
import { readyScore } from "../src/core/routine";
import { freshMove } from "../src/core/steps";
import { medianUs } from "./timing";

/** Numbers that look random and are the same each time. */
function seeded(seed: number): (low: number, high: number) => number {
  let state = seed;
  return (low, high) => {
    state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0;
    return low + ((high - low) * state) / 2 ** 32;
  };
}

export function figureSpeed(): readonly string[] {
  return [...inverseOfArm(), ...meetingsOf32(), ...tenMinutes()];
}

/** The demo's arm to 2000 places that it can reach: from home, and followed along a line. */
function inverseOfArm(): readonly string[] {
  const project = demoProject();
  const tip = project.figures.flatMap(({ tips }) => tips).find(({ id }) => id === "trellis-grip");
  if (!tip) return [];
  const inverse = new Inverse(new Chain(assemblyOf(project), tip, freeJoints(project.joints)));
  const { chain } = inverse;
  const random = seeded(4);
  const homes = chain.joints.map(({ place }) => {
    const axis = project.joints[place]?.axis;
    return axis?.kind === "angle" ? axis.homeDeg : 0;
  });
  const places = Array.from({ length: 2000 }, () => {
    inverse.take(chain.joints.map(({ low, high }) => random(low, high)));
    return [chain.tip[9], chain.tip[10], chain.tip[11]] as [number, number, number];
  });
  const timesOf = (from: (at: number) => void) => {
    const times: number[] = [];
    let reached = 0;
    for (let round = 0; round < 3; round += 1)
      places.forEach((atMm, at) => {
        from(at);
        const startMs = performance.now();
        const { isReached } = inverse.near({ kind: "place", atMm, along: null, up: null });
        if (round < 2) return;
        times.push((performance.now() - startMs) * 1000);
        if (isReached) reached += 1;
      });
    times.sort((a, b) => a - b);
    return { medianUs: times[1000] as number, reached: reached / places.length };
  };
  const home = timesOf(() => inverse.take(homes));
  let before = places[0] as [number, number, number];
  inverse.take(homes);
  inverse.anywhere({ kind: "place", atMm: before, along: null, up: null });
  const dragged: number[] = [];
  for (let step = 0; step < 4000; step += 1) {
    const atMm: [number, number, number] = [
      before[0] + random(-4, 4),
      before[1] + random(-4, 4),
      before[2] + random(-4, 4),
    ];
    const startMs = performance.now();
    inverse.near({ kind: "place", atMm, along: null, up: null }, 8);
    dragged.push((performance.now() - startMs) * 1000);
    before = [chain.tip[9] as number, chain.tip[10] as number, chain.tip[11] as number];
  }
  dragged.sort((a, b) => a - b);
  return [
    `inverse kinematics of the arm, from home to any place: median ${home.medianUs.toFixed(1)} µs (aim 30), ${(home.reached * 100).toFixed(1)} % at the first go`,
    `the same, dragged by some mm: median ${(dragged[2000] as number).toFixed(1)} µs`,
  ];
}

/** Four arms of eight parts that stand close together. */
function meetingsOf32(): readonly string[] {
  const figures = Array.from({ length: 4 }, (_, arm): Figure => {
    const parts = Array.from(
      { length: 8 },
      (_part, at): Part => ({
        id: `${arm}-${at}`,
        label: `${arm}-${at}`,
        parentId: at === 0 ? null : `${arm}-${at - 1}`,
        place: { ...here, atMm: [0, 0, at === 0 ? 10 : 50] },
        motion: {
          kind: "turn",
          axis: at % 2 ? [0, 1, 0] : [0, 0, 1],
          by: { kind: "joint", jointId: `j${arm}-${at}`, ratio: 1, offset: 0 },
        },
        bodies: [
          {
            place: { ...here, atMm: [0, 0, 25] },
            shape: at % 2 ? { kind: "box", sizeMm: [16, 16, 44] } : { kind: "rod", radiusMm: 9, lengthMm: 44 },
            color: "#888888",
            isSolid: true,
          },
        ],
        massG: 20,
        centreMm: [0, 0, 25],
        inertiaGMm2: null,
      }),
    );
    return {
      id: `f${arm}`,
      label: `f${arm}`,
      rigId: `r${arm}`,
      place: { ...here, atMm: [arm * 90, 0, 0] },
      parts,
      tips: [],
      springs: [],
      mayTouch: [],
      useShare: 0.5,
    };
  });
  const jointIds = figures.flatMap(({ parts }, arm) => parts.map((_, at) => `j${arm}-${at}`));
  const assembly = assemble(figures, jointIds);
  const now = standing(assembly);
  const meetings = new Meetings({ things: [], meshes: [] }, assembly);
  const random = seeded(9);
  const moments = Array.from({ length: 200 }, () => jointIds.map(() => random(-25, 25)));
  let at = 0;
  const whole = medianUs(200, 15, () => {
    now.targets.set(moments[at++ % moments.length] as number[]);
    stand(now);
    meetings.look(now, 0);
  });
  return [`32 parts of 4 arms, stood and asked what meets: ${whole.toFixed(1)} µs a moment (aim 50)`];
}

/** The demo's arm from tray to tray, straight, for ten minutes. */
function tenMinutes(): readonly string[] {
  const demo = demoProject();
  const arm = (id: string, turntable: number) => ({
    id,
    name: id,
    group: "",
    targets: { turntable, shoulder: 30, elbow: 80, "wrist-tilt": 30 },
  });
  const routine = {
    ...emptyRoutine("r", "Ten minutes"),
    steps: Array.from({ length: 300 }, (_, at) => ({
      ...freshMove(`s${at}`, at % 2 ? "a" : "b"),
      pace: { kind: "time" as const, moveMs: 1900 },
      holdMs: 100,
      path: { tipId: "trellis-grip", viaMm: null, mmPerS: null },
    })),
  };
  const project: Project = { ...demo, poses: [arm("a", -40), arm("b", 40)], routines: [routine], pads: [], leads: [] };
  const times: number[] = [];
  let lengthMs = 0;
  for (let round = 0; round < 4; round += 1) {
    // Other figures each time: nothing is remembered from the round before.
    const fresh = { ...project, figures: [...project.figures] };
    const startMs = performance.now();
    const score = readyScore(fresh, routine, new Map());
    if (!score.ok) return [score.problem];
    lengthMs = score.value.lengthMs;
    examine(fresh, score.value, { hasGhost: false });
    times.push(performance.now() - startMs);
  }
  times.sort((a, b) => a - b);
  return [
    `${(lengthMs / 60_000).toFixed(0)} minutes of straight moves of the demo's arm, laid and checked: ${(times[1] as number).toFixed(0)} ms (aim 1000)`,
  ];
}
