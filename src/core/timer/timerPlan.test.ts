import { makerOf } from "@core/encodings";
import fc from "fast-check";
import { expect, test } from "vitest";
import { askProblem, planTimer, powersOfTwo, readPrescalers, type TimerAsk } from ".";

const ask: TimerAsk = {
  clockHz: 20e6,
  counterBits: 16,
  prescalers: [...powersOfTwo],
  alignment: "edge",
  output: "normal",
  frameHz: 50,
  acceptsHz: { low: 40, high: 60 },
  pulsesUs: { low: 1000, high: 2000 },
  usPerDeg: 1000 / 180,
};

test("20 MHz, 16 bits, 50 Hz: prescale 8 with TOP 49 999 wins, in steps of 0.4 µs", () => {
  expect(planTimer(ask)[0]).toMatchObject({
    kind: "workable",
    prescale: 8,
    top: 49_999,
    frameHz: 50,
    stepUs: 0.4,
    compareLow: 2499,
    compareCentre: 3749,
    compareHigh: 4999,
  });
});

test("prescale 1 fails since 16 bits run out, and says at which rate", () => {
  // 20 MHz / 65 536 = 305.18 Hz
  const failed = planTimer(ask).find((plan) => plan.prescale === 1);
  expect(failed).toMatchObject({ kind: "unworkable", why: expect.stringContaining("305.18 Hz at the lowest") });
});

test("8 bits at 20 MHz reach 76 Hz at the lowest", () => {
  const plans = planTimer({ ...ask, counterBits: 8 });
  expect(plans.every((plan) => plan.kind === "unworkable")).toBe(true);
  // 20 MHz / (1024 × 256) = 76.29 Hz
  expect(plans.find((plan) => plan.prescale === 1024)).toMatchObject({ why: expect.stringContaining("76.29 Hz") });
});

test("8 bits at 1 MHz can make 50 Hz, but with too few positions to be of use", () => {
  const plans = planTimer({ ...ask, clockHz: 1e6, counterBits: 8, prescalers: [64, 256] });
  expect(plans.map((plan) => plan.kind)).toEqual(["unworkable", "unworkable"]);
  expect(plans.some((plan) => plan.kind === "unworkable" && plan.why.includes("positions"))).toBe(true);
});

test("inverted, the lowest pulse has the highest compare", () => {
  expect(planTimer({ ...ask, output: "inverted" })[0]).toMatchObject({ compareLow: 47_499, compareHigh: 44_999 });
});

test("prescalers are typed as one likes, and are whole numbers from 1", () => {
  expect(readPrescalers("1, 3;6 12")).toEqual([1, 3, 6, 12]);
  expect(readPrescalers("")).toEqual([]);
  expect(askProblem({ ...ask, prescalers: readPrescalers("1, two") })).toContain("Prescalers are whole numbers");
});

test("a clock of zero, no prescaler and an impossible rate are answered in a sentence", () => {
  expect(askProblem({ ...ask, clockHz: 0 })).toContain("clock");
  expect(askProblem({ ...ask, prescalers: [] })).toContain("Prescalers");
  expect(askProblem({ ...ask, frameHz: 600, acceptsHz: { low: 40, high: 700 } })).toContain("Ask for less than 500 Hz");
  expect(askProblem({ ...ask, frameHz: 300 })).toContain("accepts 40 to 60 Hz");
  expect(askProblem(ask)).toBeNull();
});

test("every workable plan makes what it says, whatever the timer", () => {
  fc.assert(
    fc.property(
      fc.record({
        clockHz: fc.integer({ min: 1e5, max: 2e8 }),
        counterBits: fc.constantFrom(8, 10, 12, 16, 24, 32),
        alignment: fc.constantFrom<TimerAsk["alignment"]>("edge", "centre", "either"),
        output: fc.constantFrom<TimerAsk["output"]>("normal", "inverted"),
        frameHz: fc.integer({ min: 40, max: 330 }),
      }),
      (change) => {
        for (const plan of planTimer({ ...ask, ...change, acceptsHz: { low: 40, high: 333 } })) {
          if (plan.kind !== "workable") continue;
          const maker = makerOf(plan.timer, plan.askedHz);
          expect(1e6 / maker.periodUs).toBeCloseTo(plan.frameHz, 6);
          expect(maker.periodUs * 0.9).toBeGreaterThanOrEqual(2000);
          expect(plan.top).toBeLessThan(2 ** change.counterBits);
          expect(maker.toSetPoint(plan.compareCentre)).toBeGreaterThan(1500 - plan.stepUs);
          expect(maker.toSetPoint(plan.compareCentre)).toBeLessThan(1500 + plan.stepUs);
          expect(plan.frameHz).toBeGreaterThan(40 * 0.979);
          expect(plan.frameHz).toBeLessThan(333 * 1.021);
        }
      },
    ),
  );
});

test("where the wanted rate cannot be made, the nearest that the servo accepts is planned: 244 Hz for a servo up to 333", () => {
  // 16 MHz / 65 536 = 244.14 Hz at the lowest with a prescale of 1.
  const plans = planTimer({ ...ask, clockHz: 16e6, prescalers: [1], acceptsHz: { low: 40, high: 333 } });
  expect(plans[0]).toMatchObject({
    kind: "workable",
    frameHz: expect.closeTo(244.14, 2),
    askedHz: expect.closeTo(244.14, 2),
  });
  expect(planTimer({ ...ask, clockHz: 16e6, prescalers: [1] })[0]).toMatchObject({ kind: "unworkable" });
});

test("a pulse that fills its frame is no plan", () => {
  const plans = planTimer({ ...ask, frameHz: 480, acceptsHz: { low: 40, high: 500 }, prescalers: [8] });
  expect(plans[0]).toMatchObject({ kind: "unworkable", why: expect.stringContaining("fills the frame") });
});
