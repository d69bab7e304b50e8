import type { Part } from "@core/project";
import { expect, test } from "vitest";
import { anyArm, assembled, figureOf, seeded, turning } from "./fixtures";
import { frameSize } from "./frames";
import { nmmPerKgCm, Weights } from "./weight";

const noMeshes = { meshes: [] };
const gravity = 9.80665;

test("a mass at the end of a lever: 100 g at 200 mm is 2 kg·cm", () => {
  const lever = turning("lever", null, [0, 0, 100], [0, 1, 0], { massG: 100, centreMm: [200, 0, 0] });
  const weights = new Weights(noMeshes, assembled(figureOf([lever])));
  // It pulls the lever down, which is towards larger targets about y; the servo has to hold against it.
  expect(weights.holding([0])[0]).toBeCloseTo(-2 * nmmPerKgCm, 9);
  expect(weights.holding([90])[0]).toBeCloseTo(0, 9);
  expect(weights.holding([60])[0]).toBeCloseTo(-nmmPerKgCm, 9);
  weights.carry([{ partId: "lever", atMm: [100, 0, 0], massG: 50 }]);
  expect(weights.holding([0])[0]).toBeCloseTo(-2.5 * nmmPerKgCm, 9);
});

test("a gear of 1 to 2 halves it, a counterweight and a spring take it away", () => {
  const lever = turning("lever", null, [0, 0, 0], [0, 1, 0], {
    massG: 100,
    centreMm: [200, 0, 0],
    motion: { kind: "turn", axis: [0, 1, 0], by: { kind: "joint", jointId: "j-lever", ratio: 0.5, offset: 0 } },
  });
  const other = turning("other", "lever", [-100, 0, 0], [0, 1, 0], { massG: 200, motion: { kind: "fixed" } });
  expect(new Weights(noMeshes, assembled(figureOf([lever]))).holding([0])[0]).toBeCloseTo(-nmmPerKgCm, 9);
  expect(new Weights(noMeshes, assembled(figureOf([lever, other]))).holding([0])[0]).toBeCloseTo(0, 9);
  const post = turning("post", null, [0, 0, 300], [0, 0, 1], { motion: { kind: "fixed" } });
  // Straight up from 100 mm out to the post's arm, stretched by 50: the force that makes 2 kg·cm is 1.96 N.
  const spring = {
    id: "s",
    label: "s",
    fromPartId: "lever",
    fromMm: [100, 0, 0],
    toPartId: "post",
    toMm: [100, 0, 0],
    freeMm: 250,
    nPerMm: (0.1 * gravity * 200) / 100 / 50,
  } as const;
  expect(new Weights(noMeshes, assembled(figureOf([lever, post], { springs: [spring] }))).holding([0])[0]).toBeCloseTo(
    0,
    9,
  );
});

test("a rack that lifts: force over the way of one radian", () => {
  const rack: Part = {
    ...turning("rack", null, [0, 0, 0], [0, 0, 1], { massG: 500 }),
    motion: { kind: "slide", axis: [0, 0, 1], by: { kind: "joint", jointId: "j-rack", ratio: 0.2, offset: 0 } },
  };
  // A pinion that gives 0.2 mm a degree has a radius of 11.46 mm.
  const radius = 0.2 * (180 / Math.PI);
  expect(new Weights(noMeshes, assembled(figureOf([rack]))).holding([50])[0]).toBeCloseTo(0.5 * gravity * radius, 9);
});

function anyHeavyArm(random: (low: number, high: number) => number) {
  const arm = anyArm(3 + Math.floor(random(0, 5)), random);
  return {
    ...arm,
    parts: arm.parts.map(
      (part): Part => ({
        ...part,
        massG: random(0, 300),
        centreMm: [random(-30, 30), random(-30, 30), random(0, 60)],
        inertiaGMm2: [random(1e4, 9e4), 0, 0, random(1e4, 9e4), 0, random(1e4, 9e4)],
      }),
    ),
    springs: [
      {
        id: "s",
        label: "s",
        fromPartId: "0",
        fromMm: [30, 0, 60],
        toPartId: "2",
        toMm: [10, 5, 20],
        freeMm: 20,
        nPerMm: 0.05,
      },
    ] as const,
  };
}

test("holding is virtual work: what each joint gives is how the energy changes with it", () => {
  const random = seeded(11);
  for (let round = 0; round < 60; round += 1) {
    const assembly = assembled(anyHeavyArm(random));
    const weights = new Weights(noMeshes, assembly);
    weights.carry([{ partId: "2", atMm: [0, 0, 90], massG: 120 }]);
    const targets = Float64Array.from(assembly.jointIds, () => random(-120, 120));
    const torques = Float64Array.from(weights.holding(targets));
    const stepDeg = 0.01;
    targets.forEach((value, joint) => {
      const energyAt = (target: number) => {
        weights.holding(targets.with(joint, target));
        return weights.energyNmm();
      };
      const slope = (energyAt(value + stepDeg) - energyAt(value - stepDeg)) / (2 * stepDeg * (Math.PI / 180));
      expect(torques[joint]).toBeCloseTo(slope, 3);
    });
  }
});

test("moving is power: what all joints give is what motion and height gain", () => {
  const random = seeded(12);
  const dt = 1e-4;
  for (let round = 0; round < 30; round += 1) {
    const figure = anyHeavyArm(random);
    const assembly = assembled(figure);
    const weights = new Weights(noMeshes, assembly);
    const rates = assembly.jointIds.map(() => [random(-60, 60), random(-150, 150), random(-400, 400)] as const);
    const at = (s: number) => Float64Array.from(rates, ([from, speed, gain]) => from + speed * s + (gain * s * s) / 2);
    const torques = Float64Array.from(weights.moving(at(-dt), at(0), at(dt), dt));
    const power = torques.reduce(
      (sum, torque, joint) => sum + torque * (rates[joint]?.[1] as number) * (Math.PI / 180),
      0,
    );
    const energy = (s: number) => {
      weights.holding(at(s));
      return weights.energyNmm() + motionNmm(weights, figure.parts, at, s);
    };
    expect(power).toBeCloseTo((energy(dt) - energy(-dt)) / (2 * dt), -0.5);
  }
});

/** The energy of motion in N·mm, from how places and turns change over a small time: ½ m v² and ½ ω·I·ω. */
function motionNmm(weights: Weights, parts: readonly Part[], at: (s: number) => Float64Array, s: number): number {
  const dt = 1e-5;
  const framesAt = (time: number) => {
    weights.holding(at(time));
    return Float64Array.from(weights.now.frames);
  };
  const [a, b] = [framesAt(s - dt), framesAt(s + dt)];
  let sum = 0;
  parts.forEach(({ massG, centreMm, inertiaGMm2 }, place) => {
    const f = place * frameSize;
    const point = (frames: Float64Array, row: number) =>
      centreMm.reduce(
        (so, value, k) => so + value * (frames[f + 3 * row + k] as number),
        frames[f + 9 + row] as number,
      );
    for (let row = 0; row < 3; row += 1) sum += (massG / 2) * ((point(b, row) - point(a, row)) / (2 * dt)) ** 2;
    // Spin in its own frame: the off-diagonal of Rᵀ·dR/dt.
    const spin = (i: number, j: number) => {
      let so = 0;
      for (let k = 0; k < 3; k += 1)
        so +=
          (((a[f + 3 * k + i] as number) + (b[f + 3 * k + i] as number)) / 2) *
          (((b[f + 3 * k + j] as number) - (a[f + 3 * k + j] as number)) / (2 * dt));
      return so;
    };
    const own = [spin(2, 1), spin(0, 2), spin(1, 0)];
    const inertia = [inertiaGMm2?.[0] ?? 0, inertiaGMm2?.[3] ?? 0, inertiaGMm2?.[5] ?? 0];
    own.forEach((value, k) => {
      sum += ((inertia[k] as number) / 2) * value * value;
    });
  });
  return sum * 1e-6;
}
