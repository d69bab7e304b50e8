import { demoProject } from "@core/demo";
import type { Tip } from "@core/project";
import { expect, test } from "vitest";
import { type Led, led } from "./along";
import { Chain, type FreeJoint, freeJoints } from "./chain";
import { anyArm, assembled, figureOf, seeded, turning } from "./fixtures";
import { type Assembly, assemble } from "./stand";

/** Two links of 100 mm in the x-z plane. */
const figure = figureOf(
  [turning("upper", null, [0, 0, 0], [0, 1, 0]), turning("fore", "upper", [0, 0, 100], [0, 1, 0])],
  {
    tips: [
      { id: "hand", label: "Hand", partId: "fore", place: { atMm: [0, 0, 100], turnDeg: [0, 0, 0] }, does: "reach" },
    ],
  },
);
const assembly = assembled(figure);
const tip = figure.tips[0] as (typeof figure.tips)[number];
const free = [0, 1].map((place) => ({ place, low: -175, high: 175 }));

/** Where the tip is at each place of a way. */
function placesOf(way: ReturnType<typeof led>): [number, number, number][] {
  const chain = new Chain(assembly, tip, free);
  const count = way.targets.get(0)?.length ?? 0;
  return Array.from({ length: count }, (_, at) => {
    for (const [place, targets] of way.targets) chain.now.targets[place] = targets[at] as number;
    chain.stand();
    return [9, 10, 11].map((row) => chain.tip[row] as number) as [number, number, number];
  });
}

test("straight is straight: every place lies on the line, evenly, and both ends are exact", () => {
  const [from, to] = [
    [-30, 90],
    [40, 70],
  ];
  const way = led(assembly, tip, free, from, to, null);
  const places = placesOf(way);
  const [a, b] = [places[0], places.at(-1)] as [[number, number, number], [number, number, number]];
  expect(way.strays.offMm).toBe(0);
  expect(way.wayMm).toBeCloseTo(Math.hypot(b[0] - a[0], b[2] - a[2]), 9);
  expect([...(way.targets.get(1) as Float64Array)].at(-1)).toBe(70);
  places.forEach(([x, , z], at) => {
    const share = at / (places.length - 1);
    expect(x).toBeCloseTo(a[0] + share * (b[0] - a[0]), 1);
    expect(z).toBeCloseTo(a[2] + share * (b[2] - a[2]), 1);
  });
});

test("round goes on the circle through three places", () => {
  // About the place 0, 0, 100 with 60 mm, from the right over the top to the left.
  const stanceAt = (x: number, z: number) => {
    // By hand, for two links of 100: the elbow bends by 180° less twice the half angle.
    const far = Math.hypot(x, z);
    const bend = 2 * Math.acos(far / 200);
    const lean = Math.atan2(x, z);
    return [((lean - bend / 2) * 180) / Math.PI, (bend * 180) / Math.PI];
  };
  const way = led(assembly, tip, free, stanceAt(60, 100), stanceAt(-60, 100), [0, 0, 160]);
  expect(way.wayMm).toBeCloseTo(Math.PI * 60, 3);
  expect(way.strays.offMm).toBe(0);
  for (const [x, , z] of placesOf(way)) expect(Math.hypot(x, z - 100)).toBeCloseTo(60, 1);
});

test("a way through what cannot be reached says where it strays, and how far", () => {
  // From one side to the other through the base, where the hand would have to be in the shoulder; its bend ends at 150.
  const stiff = [free[0], { place: 1, low: -100, high: 100 }] as typeof free;
  const way = led(assembly, tip, stiff, [-90, 60], [30, 60], null);
  const middle = placesOf(way)[Math.round((placesOf(way).length - 1) / 2)] as [number, number, number];
  // Bent by 100° the hand is no nearer to the shoulder than 2·100·cos 50°.
  expect(Math.hypot(...middle)).toBeGreaterThan(200 * Math.cos((50 * Math.PI) / 180) - 1);
  expect(way.strays.offMm).toBeGreaterThan(20);
  expect(way.strays.share).toBeGreaterThan(0.2);
});

test("the demo's arm is led from tray to tray without a joint that leaps", () => {
  const project = demoProject();
  const trellis = project.figures[0];
  const hand = trellis?.tips[0];
  if (!trellis || !hand) throw new Error("no hand");
  const at = (turn: number, shoulder: number, elbow: number) =>
    project.joints.map(
      ({ id, axis }) => ({ turntable: turn, shoulder, elbow })[id] ?? (axis.kind === "angle" ? axis.homeDeg : 0),
    );
  const way = led(
    assemble(
      [trellis],
      project.joints.map(({ id }) => id),
    ),
    hand,
    freeJoints(project.joints).filter(({ place }) =>
      ["turntable", "shoulder", "elbow", "wrist-tilt"].includes(project.joints[place]?.id ?? ""),
    ),
    at(-40, 20, 80),
    at(30, 30, 70),
    null,
  );
  expect(way.strays.offMm).toBe(0);
  for (const targets of way.targets.values())
    targets.forEach((target, step) => {
      if (step > 0) expect(Math.abs(target - (targets[step - 1] as number))).toBeLessThan(8);
    });
});

type Point = ReturnType<typeof pointsOf>[number];

/** How a tip's x rises over the level, and where the tip is, at each place of a way. */
function pointsOf(machine: Assembly, led: Tip, joints: readonly FreeJoint[], from: readonly number[], way: Led) {
  const chain = new Chain(machine, led, joints);
  from.forEach((target, joint) => {
    chain.now.targets[joint] = target;
  });
  const count = [...way.targets.values()][0]?.length ?? 0;
  return Array.from({ length: count }, (_, at) => {
    for (const [place, targets] of way.targets) chain.now.targets[place] = targets[at] as number;
    chain.stand();
    const [x, y, z] = [0, 3, 6].map((row) => chain.tip[row] as number) as [number, number, number];
    const mm = [9, 10, 11].map((row) => chain.tip[row] as number) as [number, number, number];
    return { x: [x, y, z] as const, tiltDeg: (Math.atan2(z, Math.hypot(x, y)) * 180) / Math.PI, mm };
  });
}

/** Three links in one plane on a turntable; the hand lies along the last. */
const carrier = figureOf(
  [
    turning("table", null, [0, 0, 40], [0, 0, 1]),
    turning("upper", "table", [0, 0, 0], [0, 1, 0]),
    turning("fore", "upper", [0, 0, 100], [0, 1, 0]),
    turning("palm", "fore", [0, 0, 100], [0, 1, 0]),
  ],
  // Its x points on along the last link.
  {
    tips: [
      { id: "cup", label: "Cup", partId: "palm", place: { atMm: [0, 0, 50], turnDeg: [0, -90, 0] }, does: "reach" },
    ],
  },
);
const cup = carrier.tips[0] as Tip;
const carrierFree = [0, 1, 2, 3].map((place) => ({ place, low: -170, high: 170 }));

test.each([
  ["level", 0],
  ["straight down", -90],
  ["straight up", 90],
  ["a little up", 20],
])("a hand that is %s stays so all along a straight way, and a round one", (_, tiltDeg) => {
  const machine = assembled(carrier);
  // The links lean one after another: what is left to the tilt is the wrist's.
  const at = (table: number, upper: number, fore: number) => [table, upper, fore, 90 - tiltDeg - upper - fore];
  const [from, to] = [at(-50, 10, 70), at(35, -20, 95)];
  for (const viaMm of [null, [130, 30, 60] as const]) {
    const way = led(machine, cup, carrierFree, from, to, viaMm, "tilt");
    expect(way.strays.offMm).toBe(0);
    expect(way.leans.offDeg).toBe(0);
    for (const point of pointsOf(machine, cup, carrierFree, from, way)) expect(point.tiltDeg).toBeCloseTo(tiltDeg, 0);
    const freely = led(machine, cup, carrierFree, from, to, viaMm);
    const worst = Math.max(
      ...pointsOf(machine, cup, carrierFree, from, freely).map((point) => Math.abs(point.tiltDeg - tiltDeg)),
    );
    // Else this test could not fail.
    expect(worst).toBeGreaterThan(2);
  }
});

test("what cannot be kept is said with its worst place, and the hand stays on its way", () => {
  const machine = assembled(carrier);
  // A turntable turns the hand with it: it cannot point one way along a line beside it.
  const [from, to] = [
    [-50, 10, 70, 10],
    [50, 10, 70, 10],
  ];
  const way = led(machine, cup, carrierFree, from, to, null, "direction");
  expect(way.strays.offMm).toBe(0);
  const points = pointsOf(machine, cup, carrierFree, from, way);
  const [a, b] = [points[0], points.at(-1)].map((point) => point?.x as readonly [number, number, number]);
  // Both ends are level, 100° apart: by hand.
  const leans = points.map(({ x: [x, y] }, at) => {
    const wanted = ((-50 + (100 * at) / (points.length - 1)) * Math.PI) / 180;
    return (Math.acos(Math.min(1, x * Math.cos(wanted) + y * Math.sin(wanted))) * 180) / Math.PI;
  });
  expect(a?.[2]).toBeCloseTo(0, 9);
  expect(b?.[2]).toBeCloseTo(0, 9);
  const worst = Math.max(...leans);
  expect(way.leans.offDeg).toBeCloseTo(worst, 1);
  expect(leans[Math.round(way.leans.share * (points.length - 1))]).toBeCloseTo(worst, 1);
});

test("a pose that has the elbow on the other side is not come to without a leap: said, with the stance that is", () => {
  // The same place twice, by hand: leaning by 60° and bent by -60°, or leaning by 0° and bent by 60°.
  const [from, up, down] = [
    [-40, 80],
    [0, 60],
    [60, -60],
  ];
  const leaping = led(assembly, tip, free, from, down, null);
  expect(leaping.strays.offMm).toBe(0);
  expect(leaping.leaps).toMatchObject({ share: 1, joint: 1 });
  expect(leaping.leaps.byDeg).toBeGreaterThan(100);
  expect([...(leaping.arrival as ReadonlyMap<number, number>)].map(([, target]) => Math.round(target) + 0)).toEqual(up);
  expect(led(assembly, tip, free, from, up, null)).toMatchObject({ leaps: { byDeg: 0 }, arrival: null });
});

test("a hand that is rolled far on a short way leaps nowhere", () => {
  const roller = figureOf([...carrier.parts, turning("roll", "palm", [0, 0, 0], [0, 0, 1])], {
    tips: [{ ...cup, partId: "roll" }],
  });
  const joints = [...carrierFree, { place: 4, low: -170, high: 170 }];
  const [from, to] = [
    [0, 10, 70, 10, -160],
    [2, 10, 70, 10, 160],
  ];
  for (const pointing of ["freely", "tilt"] as const) {
    const way = led(assembled(roller), roller.tips[0] as Tip, joints, from, to, null, pointing);
    expect(way.wayMm).toBeLessThan(20);
    expect(way).toMatchObject({ strays: { offMm: 0 }, leaps: { byDeg: 0 }, leans: { offDeg: 0 } });
  }
});

test("random arms, ways and pointings: ends are exact, all that strays, leans and leaps is said, and what arrives elsewhere has a stance that does not leap", () => {
  const random = seeded(20);
  let arrivals = 0;
  for (let round = 0; round < 96; round += 1) {
    const machine = anyArm(3 + (round % 4), random);
    const standsOn = assembled(machine);
    const reach = machine.tips[0] as Tip;
    const joints = machine.parts.map((_, place) => ({ place, low: -120, high: 120 }));
    const from = joints.map(() => random(-100, 100));
    // Half of them go to a stance near by.
    const to = from.map((target) =>
      round % 8 < 4 ? random(-100, 100) : Math.max(-120, Math.min(120, target + random(-30, 30))),
    );
    for (const pointing of ["freely", "tilt", "direction"] as const) {
      const way = led(standsOn, reach, joints, from, to, null, pointing);
      for (const [place, targets] of way.targets) {
        expect(targets[0]).toBe(from[place]);
        expect(targets.at(-1)).toBe(to[place]);
        expect(targets.every((target) => target >= -120 && target <= 120)).toBe(true);
        const evenDeg = Math.abs((to[place] ?? 0) - (from[place] ?? 0)) / (targets.length - 1);
        targets.forEach((target, at) => {
          const byDeg = at > 0 ? Math.abs(target - (targets[at - 1] ?? 0)) : 0;
          expect(byDeg).toBeLessThanOrEqual(Math.max(30 + evenDeg, way.leaps.byDeg) + 1e-9);
        });
      }
      const points = pointsOf(standsOn, reach, joints, from, way);
      const [a, b] = [points[0], points.at(-1)] as [Point, Point];
      points.forEach((point, at) => {
        const share = at / (points.length - 1);
        const along = (row: number) => (a.mm[row] ?? 0) + share * ((b.mm[row] ?? 0) - (a.mm[row] ?? 0));
        const off = Math.hypot(...point.mm.map((mm, row) => mm - along(row)));
        expect(off).toBeLessThan(Math.max(0.5, way.strays.offMm) + 1e-6);
        const lean = Math.abs(point.tiltDeg - (a.tiltDeg + share * (b.tiltDeg - a.tiltDeg)));
        if (pointing === "tilt") expect(lean).toBeLessThan(Math.max(1, way.leans.offDeg) + 1e-6);
      });
      if (!way.arrival) continue;
      arrivals += 1;
      const arriving = [...to];
      for (const [place, target] of way.arrival) arriving[place] = target;
      const better = led(standsOn, reach, joints, from, arriving, null, pointing);
      expect(better).toMatchObject({ strays: { offMm: 0 }, leaps: { byDeg: 0 } });
    }
  }
  expect(arrivals).toBeGreaterThan(20);
});
