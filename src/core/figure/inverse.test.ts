import type { Vector } from "@core/shapes";
import { expect, test } from "vitest";
import type { Aim } from "./aim";
import { Chain, type FreeJoint } from "./chain";
import { anyArm, assembled, figureOf, seeded, turning } from "./fixtures";
import { Inverse } from "./inverse";

function ready(figure: ReturnType<typeof anyArm>, free: readonly FreeJoint[]): Inverse {
  const [tip] = figure.tips;
  if (!tip) throw new Error("no tip");
  return new Inverse(new Chain(assembled(figure), tip, free));
}

/** All of where a tip stands, as an aim. */
function aimOf({ chain }: Inverse): Aim {
  const t = chain.tip as Float64Array & readonly number[];
  const at = (...rows: number[]) => rows.map((row) => t[row]) as unknown as Vector;
  return { kind: "place", atMm: at(9, 10, 11), along: at(0, 3, 6), up: at(2, 5, 8) };
}

/** Plain damped least squares with the same slopes and the same limits, from the same beginning: what most write first. */
function plainReaches(inverse: Inverse, aim: Aim): boolean {
  const { chain } = inverse;
  if (aim.kind !== "place" || !aim.along || !aim.up) return false;
  const count = chain.joints.length;
  const slopes = new Float64Array(6 * count);
  for (let round = 0; round < 60; round += 1) {
    chain.stand();
    const t = chain.tip;
    const gap = [0, 1, 2].map((row) => (aim.atMm[row] as number) - (t[9 + row] as number));
    // The turn still wanted, as a vector: half the sum of what its axes lack.
    const turn = [0, 0, 0];
    for (const [axis, wanted] of [
      [0, aim.along],
      [2, aim.up],
    ] as const) {
      const [ax, ay, az] = [t[axis], t[3 + axis], t[6 + axis]] as [number, number, number];
      turn[0] = (turn[0] as number) + (ay * wanted[2] - az * wanted[1]) / 2;
      turn[1] = (turn[1] as number) + (az * wanted[0] - ax * wanted[2]) / 2;
      turn[2] = (turn[2] as number) + (ax * wanted[1] - ay * wanted[0]) / 2;
    }
    if (Math.hypot(...gap) < 0.1 && Math.hypot(...turn) < (0.1 * Math.PI) / 180) return true;
    chain.slopes(slopes);
    const error = [...gap, ...turn.map((value) => value * 100)];
    const column = (joint: number) =>
      [0, 1, 2, 3, 4, 5].map((row) => (slopes[6 * joint + row] as number) * (row < 3 ? 1 : 100));
    // x = Jᵀ (J Jᵀ + λ²)⁻¹ e, with λ = 5, solved by elimination.
    const rows = [0, 1, 2, 3, 4, 5].map((a) => [
      ...[0, 1, 2, 3, 4, 5].map((b) => {
        let sum = a === b ? 25 : 0;
        for (let joint = 0; joint < count; joint += 1)
          sum += (column(joint)[a] as number) * (column(joint)[b] as number);
        return sum;
      }),
      error[a] as number,
    ]);
    for (let i = 0; i < 6; i += 1)
      for (let j = 0; j < 6; j += 1) {
        if (i === j) continue;
        const share = (rows[j]?.[i] as number) / (rows[i]?.[i] as number);
        rows[j] = (rows[j] as number[]).map((value, at) => value - share * (rows[i]?.[at] as number));
      }
    chain.joints.forEach(({ place, low, high }, joint) => {
      const step = column(joint).reduce(
        (sum, value, row) => sum + (value * (rows[row]?.[6] as number)) / (rows[row]?.[row] as number),
        0,
      );
      chain.now.targets[place] = Math.max(low, Math.min(high, (chain.now.targets[place] as number) + step));
    });
  }
  return false;
}

test("10 000 places that arms of 3 to 7 joints can take are found again, within their limits", {
  timeout: 60_000,
}, () => {
  const random = seeded(19);
  let [asked, reached, plainly] = [0, 0, 0];
  for (const joints of [3, 4, 5, 6, 7])
    for (let arm = 0; arm < 20; arm += 1) {
      const free = Array.from({ length: joints }, (_, place) => ({
        place,
        low: random(-150, -40),
        high: random(40, 150),
      }));
      const inverse = ready(anyArm(joints, random), free);
      for (let place = 0; place < 100; place += 1) {
        inverse.take(free.map(({ low, high }) => random(low, high)));
        const aim = aimOf(inverse);
        inverse.take(free.map(() => 0));
        asked += 1;
        if (place % 10 === 0 && plainReaches(inverse, aim)) plainly += 10;
        inverse.take(free.map(() => 0));
        const { isReached } = inverse.anywhere(aim);
        // Not by its own word: where the tip stands is looked at again.
        const now = aimOf(inverse);
        if (aim.kind !== "place" || now.kind !== "place") continue;
        const offMm = Math.hypot(...aim.atMm.map((value, row) => value - (now.atMm[row] as number)));
        const turned = aim.along?.reduce((sum, value, row) => sum + value * (now.along?.[row] as number), 0) ?? 0;
        const isInside = inverse
          .stance()
          .every((value, at) => value >= (free[at]?.low as number) && value <= (free[at]?.high as number));
        const isThere = offMm < 0.1 && Math.acos(Math.min(1, turned)) < (0.1 * Math.PI) / 180;
        if (!isInside || (isReached && !isThere)) expect.fail(`${joints} joints: ${inverse.stance()}`);
        if (isThere) reached += 1;
      }
    }
  expect(asked).toBe(10_000);
  expect(reached / asked).toBeGreaterThanOrEqual(0.995);
  // What is gained over the plain way: it leaves more than a third of them.
  expect(plainly / asked).toBeLessThan(0.65);
});

test("a hand that is dragged never has a joint leap: along stops, through singular places and beyond the reach", () => {
  const random = seeded(3);
  for (const joints of [3, 5, 7]) {
    const free = Array.from({ length: joints }, (_, place) => ({ place, low: -110, high: 110 }));
    const inverse = ready(anyArm(joints, random), free);
    inverse.take(free.map(() => random(-40, 40)));
    const t = inverse.chain.tip;
    const at: [number, number, number] = [t[9] as number, t[10] as number, t[11] as number];
    let before = inverse.stance();
    // Straight lines to and fro, a millimetre at a time: some run through the base, some far out of reach.
    for (let line = 0; line < 40; line += 1) {
      const to = [random(-500, 500), random(-500, 500), random(-100, 600)] as const;
      const far = Math.hypot(...to.map((value, row) => value - (at[row] as number)));
      const steps = Math.ceil(far);
      const step = to.map((value, row) => (value - (at[row] as number)) / steps);
      for (let move = 0; move < steps; move += 1) {
        for (let row = 0; row < 3; row += 1) at[row] = (at[row] as number) + (step[row] as number);
        inverse.near({ kind: "place", atMm: at, along: null, up: null }, 3);
        const now = inverse.stance();
        const leap = Math.max(...now.map((value, joint) => Math.abs(value - (before[joint] as number))));
        if (leap > 3 + 1e-9 || now.some((value) => Math.abs(value) > 110))
          expect.fail(`${joints} joints, line ${line}: ${now}`);
        before = now;
      }
    }
  }
});

test("an elbow has two ways to the same place; where nothing reaches, it says how far it stays away", () => {
  const figure = figureOf(
    [turning("upper", null, [0, 0, 0], [0, 1, 0]), turning("fore", "upper", [0, 0, 100], [0, 1, 0])],
    {
      tips: [
        { id: "hand", label: "Hand", partId: "fore", place: { atMm: [0, 0, 100], turnDeg: [0, 0, 0] }, does: "reach" },
      ],
    },
  );
  const inverse = ready(figure, [
    { place: 0, low: -180, high: 180 },
    { place: 1, low: -150, high: 150 },
  ]);
  inverse.take([10, 40]);
  const ways = inverse.ways({ kind: "place", atMm: [Math.SQRT2 * 100, 0, 0], along: null, up: null });
  // By hand: links of 100 and 100 to a place 141.4 away bend by a right angle.
  expect(ways.map((way) => [...way].map(Math.round)).sort((a, b) => (a[1] as number) - (b[1] as number))).toEqual([
    [135, -90],
    [45, 90],
  ]);
  const off = inverse.anywhere({ kind: "place", atMm: [260, 0, 0], along: null, up: null });
  expect(off.isReached).toBe(false);
  expect(off.offMm).toBeCloseTo(60, 1);
});

test("a neck looks at a place, and is barred where it hangs straight", () => {
  const neck = figureOf(
    [turning("turn", null, [0, 0, 100], [0, 0, 1]), turning("nod", "turn", [0, 0, 30], [0, 1, 0])],
    {
      tips: [
        { id: "look", label: "Look", partId: "nod", place: { atMm: [20, 0, 10], turnDeg: [0, 0, 0] }, does: "look" },
      ],
    },
  );
  const inverse = ready(neck, [
    { place: 0, low: -80, high: 80 },
    { place: 1, low: -30, high: 35 },
  ]);
  const aim: Aim = { kind: "lookAt", atMm: [300, 300, 60] };
  expect(inverse.near(aim).isReached).toBe(true);
  const t = inverse.chain.tip;
  const far = Math.hypot(300 - (t[9] as number), 300 - (t[10] as number), 60 - (t[11] as number));
  for (let row = 0; row < 3; row += 1)
    expect((t[9 + row] as number) + far * (t[3 * row] as number)).toBeCloseTo([300, 300, 60][row] as number, 0);
  expect(inverse.near({ kind: "lookAt", atMm: [-300, 10, 130] }).isReached).toBe(false);
  expect(Math.abs(inverse.stance()[0] as number)).toBe(80);
  expect(inverse.ease()).toBeLessThan(0.2);
});
