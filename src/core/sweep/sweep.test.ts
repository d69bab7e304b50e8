import { demoProject } from "@core/demo";
import type { Encoding } from "@core/encodings";
import { byId } from "@core/project";
import { jointBench } from "@core/rig";
import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { type SweepAsk, simulateSweep, smoothest, sweepFacts, sweepPositions, sweepProblem, sweptPositions } from ".";

const project = demoProject();
const neckOn = (encoding: Encoding) => {
  const joint = byId(project.joints, "neck-turn");
  const board = { ...byId(project.boards, "fern"), encoding };
  return jointBench(joint, byId(project.cards, joint.cardId), board);
};
const fine = neckOn({ kind: "counts", bits: 16, fullScale: "2^n-1", rounding: "round" });
const ask = (change: Partial<SweepAsk> = {}): SweepAsk => ({
  fromDeg: -60,
  toDeg: 60,
  stepDeg: 1,
  dwellMs: 20,
  rounding: "none",
  ...change,
});

describe("positions", () => {
  test("−60…60° in steps of 1° are 121, both ends in", () => {
    const positions = sweepPositions(ask());
    expect(positions).toHaveLength(121);
    expect([positions[0], positions.at(-1)]).toEqual([-60, 60]);
  });

  test("a step that does not divide the span gets a last short one: 0, 7, 14, 20", () => {
    expect(sweepPositions(ask({ fromDeg: 0, toDeg: 20, stepDeg: 7 }))).toEqual([0, 7, 14, 20]);
  });

  test("downward, and in tenths, the last is the end itself", () => {
    const positions = sweepPositions(ask({ fromDeg: 1, toDeg: 0, stepDeg: 0.1 }));
    expect(positions).toHaveLength(11);
    expect(positions.at(-1)).toBe(0);
  });

  test("both ends are always in, and no step is larger than asked", () => {
    const deg = fc.double({ min: -80, max: 80, noNaN: true });
    fc.assert(
      fc.property(deg, deg, fc.double({ min: 0.05, max: 50, noNaN: true }), (fromDeg, toDeg, stepDeg) => {
        if (fromDeg === toDeg) return;
        const positions = sweepPositions(ask({ fromDeg, toDeg, stepDeg }));
        expect(positions[0]).toBeCloseTo(fromDeg, 12);
        expect(positions.at(-1)).toBeCloseTo(toDeg, 12);
        for (let at = 1; at < positions.length; at += 1)
          expect(Math.abs((positions[at] as number) - (positions[at - 1] as number))).toBeLessThanOrEqual(
            stepDeg * (1 + 1e-6),
          );
      }),
    );
  });
});

describe("facts", () => {
  const factsOf = (given: SweepAsk, bench = fine) => sweepFacts(given, bench, sweptPositions(given, bench));

  test("1° every 20 ms is 50 °/s, 2.42 s for 121 positions, well under the rated 429 °/s", () => {
    expect(factsOf(ask())).toMatchObject({ positions: 121, totalMs: 2420, speedDegPerS: 50, remarks: [] });
    // 60 / 0.14
    expect(factsOf(ask()).ratedDegPerS).toBeCloseTo(428.57, 2);
  });

  test("10° every 15 ms is faster than rated, jerky and shorter than a frame; each is said", () => {
    const remarks = factsOf(ask({ stepDeg: 10, dwellMs: 15 })).remarks.join(" ");
    expect(remarks).toContain("666.67 °/s is faster than the rated 428.57 °/s");
    expect(remarks).toContain("Dwell at least 23.33 ms");
    expect(remarks).toContain("jerky");
    expect(remarks).toContain("shorter than a frame");
  });

  test("half degrees rounded to whole ones repeat every other position", () => {
    expect(factsOf(ask({ stepDeg: 0.5, rounding: "wholeDegrees" })).repeated).toBeGreaterThan(100);
  });

  test("on 8 bits, steps of 1° repeat positions: one count is 14°", () => {
    const eight = neckOn({ kind: "counts", bits: 8, fullScale: "2^n-1", rounding: "round" });
    expect(factsOf(ask(), eight).repeated).toBeGreaterThan(100);
    expect(factsOf(ask(), eight).remarks.join()).toContain("own step is 14.12°");
  });
});

describe("the simulated servo", () => {
  test("follows a slow sweep closely, and arrives", () => {
    const run = simulateSweep(sweptPositions(ask(), fine), 20, fine);
    expect(run.largestLagDeg).toBeLessThan(1.1);
    expect(run.endErrorDeg).toBeLessThan(0.8);
  });

  test("falls behind one that is too fast: after 13 dwells of 15 ms it has turned 75° of 120", () => {
    const fast = ask({ stepDeg: 10, dwellMs: 15 });
    const run = simulateSweep(sweptPositions(fast, fine), 15, fine);
    // The first frame that says anything new begins at 20 ms; from then it turns 175 ms × 428.57 °/s = 75°.
    expect(Math.abs(run.endErrorDeg - (120 - 75))).toBeLessThan(1.5);
    expect(run.largestLagDeg).toBeGreaterThan(30);
  });

  test("“as smooth as this board can” leaves nothing to remark and no lag worth speaking of", () => {
    const smooth = smoothest(ask({ stepDeg: 10, dwellMs: 50 }), fine);
    const swept = sweptPositions(smooth, fine);
    expect(sweepFacts(smooth, fine, swept).remarks.filter((remark) => !remark.includes("jerky"))).toEqual([]);
    expect(simulateSweep(swept, smooth.dwellMs, fine).endErrorDeg).toBeLessThan(1);
    expect(smooth.dwellMs % 20).toBeCloseTo(0, 9);
  });
});

test("with a step that is exactly the deadband every dwell turns the servo, and none by twice as much", () => {
  const { joint, board } = fine;
  const bench = jointBench(joint, { ...fine.card, deadband: fine.maker.step }, board);
  const smooth = smoothest(ask({ stepDeg: 0.05, dwellMs: 20, fromDeg: 0, toDeg: 5 }), bench);
  const made = sweptPositions(smooth, bench).map(({ count }) => count);
  const steps = made.slice(1, -1).map((count, at) => Math.abs(count - (made[at] as number)));
  expect(new Set(steps).size).toBe(1);
  expect(steps[0]).toBe(2);
});

test.each([
  [{ stepDeg: 0 }, "more than 0°"],
  [{ dwellMs: 0 }, "more than 0 ms"],
  [{ toDeg: -60 }, "ends where it begins"],
  [{ toDeg: 120 }, "past the travel"],
  [{ stepDeg: 0.001 }, "larger step"],
])("%o is answered: %s", (change, says) => {
  expect(sweepProblem(ask(change), fine)).toContain(says);
});
