import { demoProject } from "@core/demo";
import { here, type Joint, type Part } from "@core/project";
import { expect, test } from "vitest";
import { beginnings, begun } from "./beginnings";
import { freeJoints } from "./chain";
import { faultsOf } from "./faults";
import { assembled, figureOf, turning } from "./fixtures";
import { frameSize } from "./frames";
import { mirroredParts } from "./mirror";
import { assembleBench } from "./plainFigure";
import { carriesG, reachCloud } from "./reachCloud";
import { assemble, stand, standing } from "./stand";
import { nmmPerKgCm, Weights } from "./weight";
import { worstOf } from "./worst";

const demo = demoProject();
const none = () => undefined;
let ids = 0;
const newId = () => `m${++ids}`;

test("every ready-made machine hangs together and, with joints enough, has no fault", () => {
  const rig = demo.rigs[0];
  if (!rig) throw new Error("no rig");
  for (const beginning of beginnings) {
    const joints = Array.from(
      { length: beginning.uses },
      (_, at): Joint => ({ ...(demo.joints[0] as Joint), id: `${beginning.id}-${at}`, label: `J${at}`, rigId: rig.id }),
    );
    const figure = begun(beginning, rig, joints, newId);
    expect(
      assemble(
        [figure],
        joints.map(({ id }) => id),
      ).parts.length,
    ).toBe(figure.parts.length);
    expect([beginning.name, faultsOf(figure, joints, none).map(({ sentence }) => sentence)]).toEqual([
      beginning.name,
      [],
    ]);
    // Without a joint the moved parts say that they wait for one.
    expect(
      faultsOf(begun(beginning, rig, [], newId), [], none).some(({ sentence }) =>
        sentence.includes("no joint moves it"),
      ),
    ).toBe(true);
  }
  expect(demo.figures.flatMap((figure) => faultsOf(figure, demo.joints, none))).toEqual([]);
});

test("faults are said in words: what floats, what sinks, what never moves, bars that do not reach", () => {
  const box = { place: here, shape: { kind: "box", sizeMm: [20, 20, 20] }, color: "#888888", isSolid: true } as const;
  const joint = { ...(demo.joints[0] as Joint), id: "j-a", label: "A", rigId: "rig" };
  const says = (parts: readonly Part[]) => faultsOf(figureOf(parts), [joint], none).map(({ sentence }) => sentence);
  const foot = turning("foot", null, [0, 0, 70], [0, 0, 1], {
    motion: { kind: "fixed" },
    bodies: [box],
    label: "Foot",
  });
  const arm = turning("a", "foot", [0, 0, 20], [0, 0, 1], { massG: 10, label: "Arm" });
  expect(says([foot, arm])).toEqual(["Foot hangs on nothing: it floats 60 mm over the table."]);
  expect(says([{ ...foot, place: { ...here, atMm: [0, 0, 4] } }, arm])).toEqual(["Foot goes 6 mm into the table."]);
  const bars = {
    kind: "linkage",
    partId: "a",
    groundMm: 80,
    crankMm: 30,
    couplerMm: 55,
    rockerMm: 20,
    crankAtDeg: 60,
    isCrossed: false,
  } as const;
  const rocker = turning("r", "foot", [0, 0, 20], [0, 0, 1], {
    massG: 5,
    label: "Rocker",
    motion: { kind: "turn", axis: [0, 0, 1], by: bars },
  });
  expect(says([{ ...foot, place: { ...here, atMm: [0, 0, 10] } }, arm, rocker])[0]).toContain(
    "The bars that turn Rocker do not reach each other",
  );
  expect(says([{ ...foot, place: { ...here, atMm: [0, 0, 10] } }])).toEqual(["A moves no part."]);
});

test("a mirrored leg stands on the other side as the first one does", () => {
  const parts = [
    turning("body", null, [0, 0, 140], [0, 0, 1], { motion: { kind: "fixed" }, label: "Body" }),
    turning("hip", "body", [10, 25, 0], [1, 0, 0], {
      label: "Left hip",
      place: { atMm: [10, 25, 0], turnDeg: [10, 20, 30] },
    }),
    turning("knee", "hip", [0, 5, -60], [0.3, 1, 0.2], { label: "Left knee" }),
  ];
  const { parts: others } = mirroredParts(parts, [], "hip", newId);
  expect(others.map(({ label }) => label)).toEqual(["Right hip", "Right knee"]);
  // The copies wait for joints of their own; moved by those of the first they do the same, turned over.
  const moved = others.map((part, at) => ({
    ...part,
    motion:
      part.motion.kind === "turn"
        ? {
            ...part.motion,
            by: { kind: "joint", jointId: at === 0 ? "j-hip" : "j-knee", ratio: 1, offset: 0 } as const,
          }
        : part.motion,
  }));
  const assembly = assemble([figureOf([...parts, ...moved])], ["j-hip", "j-knee"]);
  const now = standing(assembly);
  now.targets.set([25, -40]);
  stand(now);
  const at = (place: number) => [9, 10, 11].map((row) => now.frames[place * frameSize + row] as number);
  for (const [one, other] of [
    [1, 3],
    [2, 4],
  ] as const) {
    const [x, y, z] = at(one) as [number, number, number];
    at(other).forEach((value, row) => {
      expect(value).toBeCloseTo([x, -y, z][row] as number, 6);
    });
  }
});

test("the worst stance of two links is stretched out flat; what can be carried is what is left there", () => {
  const link = { massG: 100, centreMm: [0, 0, 50] } as const;
  const figure = figureOf([
    turning("upper", null, [0, 0, 0], [0, 1, 0], link),
    turning("fore", "upper", [0, 0, 100], [0, 1, 0], link),
  ]);
  const assembly = assembled(figure);
  const free = [0, 1].map((place) => ({ place, low: -120, high: 120 }));
  const weights = new Weights({ meshes: [] }, assembly);
  const worst = worstOf(weights, 0, free, [0, 0], new Set([0, 1]));
  // 100 g at 50 mm and 100 g at 150 mm: 2 kg·cm.
  expect(worst.torqueNmm).toBeCloseTo(2 * nmmPerKgCm, 1);
  expect(Math.abs(worst.targets[0] as number)).toBeCloseTo(90, 0);
  expect(worst.targets[1]).toBeCloseTo(0, 0);
  // The shoulder may hold 5 kg·cm, the elbow 1.5: flat the elbow is the weaker, with 0.5 of its own and 100 mm out.
  const can = [5 * nmmPerKgCm, 1.5 * nmmPerKgCm];
  expect(carriesG(weights, [90, 0], { partId: "fore", atMm: [0, 0, 100] }, can)).toBeCloseTo(100, 6);
  expect(carriesG(weights, [90, 0], { partId: "fore", atMm: [0, 0, 100] }, [nmmPerKgCm, 9e9])).toBe(0);
  expect(carriesG(weights, [0, 0], { partId: "fore", atMm: [0, 0, 100] }, can)).toBe(Number.POSITIVE_INFINITY);
});

test("what can be reached is a cloud: of one link a circle, of the demo's arm nothing beyond its length", () => {
  const one = figureOf([turning("a", null, [0, 0, 0], [0, 1, 0])]);
  const tip = { id: "t", label: "T", partId: "a", place: { ...here, atMm: [0, 0, 100] }, does: "reach" } as const;
  const { places } = reachCloud(assembled(one), tip, [{ place: 0, low: -90, high: 90 }], [0], 500);
  expect(places.length).toBeGreaterThan(30);
  for (let at = 0; at < places.length; at += 3)
    expect(Math.hypot(places[at] as number, places[at + 2] as number)).toBeCloseTo(100, -1);
  const hand = demo.figures[0]?.tips[0];
  if (!hand) throw new Error("no hand");
  const cloud = reachCloud(
    assembleBench(demo),
    hand,
    freeJoints(demo.joints),
    demo.joints.map(() => 0),
    5000,
  );
  const shoulder = [0, -170, 49];
  // 110 + 95 + 62 mm from the shoulder, and the cubes are half that many mm off.
  for (let at = 0; at < cloud.places.length; at += 3)
    expect(Math.hypot(...shoulder.map((value, row) => (cloud.places[at + row] as number) - value))).toBeLessThan(
      267 + cloud.cubeMm,
    );
  expect(Math.max(...cloud.worth)).toBeLessThanOrEqual(1);
});

test("a rig without a figure has its servos in a row, each with a horn that turns", () => {
  const bench = assembleBench({ ...demo, figures: [] });
  expect(bench.parts.length).toBe(2 * demo.joints.length);
  expect(new Set(bench.movers)).toEqual(new Set([-1, ...demo.joints.keys()]));
  expect(assembleBench({ figures: [], rigs: [], joints: [] }).parts).toEqual([]);
});
