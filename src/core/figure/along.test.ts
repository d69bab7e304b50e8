import { demoProject } from "@core/demo";
import { expect, test } from "vitest";
import { led } from "./along";
import { Chain, freeJoints } from "./chain";
import { assembled, figureOf, turning } from "./fixtures";
import { assemble } from "./stand";

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
  expect(way.offMm).toBe(0);
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
  expect(way.offMm).toBe(0);
  for (const [x, , z] of placesOf(way)) expect(Math.hypot(x, z - 100)).toBeCloseTo(60, 1);
});

test("a way through what cannot be reached says where it strays, and how far", () => {
  // From one side to the other through the base, where the hand would have to be in the shoulder; its bend ends at 150.
  const stiff = [free[0], { place: 1, low: -100, high: 100 }] as typeof free;
  const way = led(assembly, tip, stiff, [-90, 60], [30, 60], null);
  const middle = placesOf(way)[Math.round((placesOf(way).length - 1) / 2)] as [number, number, number];
  // Bent by 100° the hand is no nearer to the shoulder than 2·100·cos 50°.
  expect(Math.hypot(...middle)).toBeGreaterThan(200 * Math.cos((50 * Math.PI) / 180) - 1);
  expect(way.offMm).toBeGreaterThan(20);
  expect(way.worstShare).toBeGreaterThan(0.2);
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
  expect(way.offMm).toBe(0);
  for (const targets of way.targets.values())
    targets.forEach((target, step) => {
      if (step > 0) expect(Math.abs(target - (targets[step - 1] as number))).toBeLessThan(8);
    });
});
