import { demoProject } from "@core/demo";
import type { Encoding } from "@core/encodings";
import { encodingWorking } from "@core/encodings";
import { byId } from "@core/project";
import { jointBench, jointBenchOf } from "@core/rig";
import { describe, expect, test } from "vitest";
import { equationsOf, workingOf } from "./working";

const project = demoProject();
const benchOf = (id: string) => jointBenchOf(project, byId(project.joints, id));
/** The neck, whose data sheet says 1000 to 2000 µs for 180°, on a board of another kind. 36° of the joint are 126° of the servo, and 1700 µs. */
function neckOn(encoding: Encoding, frameHz = 50) {
  const joint = byId(project.joints, "neck-turn");
  const board = { ...byId(project.boards, "fern"), encoding, frameHz: [frameHz] };
  return jointBench(joint, byId(project.cards, joint.cardId), board);
}
const linesOn = (encoding: Encoding, frameHz?: number) => workingOf(neckOn(encoding, frameHz), 36)[1]?.lines ?? [];
const software = {
  kind: "software",
  framing: { kind: "fixedPeriod" },
  granularityUs: 1,
  largestDelayUs: 1_000_000,
  loopOverheadUs: 50,
  lateness: { kind: "none" },
} as unknown as Extract<Encoding, { kind: "software" }>;

test("from the angle to the pulse: zero and direction first, then the card's line", () => {
  // 1000 µs at 0°, 2000 at 180: 5.5556 µs a degree.
  expect(workingOf(benchOf("neck-turn"), 36)[0]).toEqual({
    heading: "From angle to pulse",
    lines: ["servo angle = zero + joint angle = 90 + 36 = 126°", "pulse = 5.5556 × 126 + 1000 = 1700 µs"],
  });
  expect(workingOf(benchOf("neck-turn"), -36)[0]?.lines[0]).toBe("servo angle = zero + joint angle = 90 + (−36) = 54°");
});

describe("what each way of making signals does with 1700 µs", () => {
  test("per cent in tenths: 8.5 % is there exactly", () => {
    expect(linesOn({ kind: "percent", stepPercent: 0.1, rounding: "round" })).toEqual([
      "period = 1 000 000 / 50 = 20000 µs",
      "duty = 100 × 1700 / 20000 = 8.5 %, in steps of 0.1 %",
      "which it can only load as 8.5, and that makes 1700 µs",
      "error = 1700 − 1700 = 0 µs = 0°",
    ]);
  });

  test("16 bits to 65 535: 5570.475 counts become 5570, and 0.026° are lost", () => {
    const lines = linesOn({ kind: "counts", bits: 16, fullScale: "2^n-1", rounding: "truncate" });
    expect(lines.slice(1)).toEqual([
      "duty = 1700 / 20000 = 0.085",
      "count = 0.085 × 65535 = 5570.475, truncated",
      "which it can only load as 5570, and that makes 1699.855 µs",
      "error = 1699.855 − 1700 = −0.145 µs = −0.0261°",
    ]);
  });

  test("a pulse chip of 20 MHz misses 50 Hz by its whole prescaler, and every count with it", () => {
    const chip = {
      kind: "pulseChip",
      oscillatorHz: 20e6,
      oscillatorErrorPercent: 0,
      bits: 13,
      rounding: "round",
    } as const;
    expect(linesOn(chip).slice(0, 3)).toEqual([
      "prescale = round(20000000 / (8192 × 50)) − 1 = 48",
      "frame = 20000000 / (8192 × 49) = 49.8246 Hz, so period = 20070.4 µs",
      "count = 8192 × 1700 / 20070.4 = 693.8776, rounded",
    ]);
    // Its oscillator runs 2 % fast: the frame is shorter, the count for the same pulse larger.
    expect(linesOn({ ...chip, oscillatorErrorPercent: 2 })[2]).toBe(
      "count = 8192 × 1700 / 19676.8627 = 707.7551, rounded",
    );
  });

  test.each([
    ["edge", "normal", "compare = 1700 − 1 = 1699"],
    ["edge", "inverted", "compare = TOP − 1700 = 18299"],
    ["centre", "normal", "compare = 1700 / 2 = 850"],
    ["centre", "inverted", "compare = TOP − 1700 / 2 = 9150"],
  ] as const)("a timer of 12 MHz, prescaled by 12, %s-aligned and %s", (alignment, output, compare) => {
    const lines = linesOn({ kind: "timer", clockHz: 12e6, prescale: 12, counterBits: 16, alignment, output });
    expect(lines[0]).toBe("tick = 12 / 12 MHz = 1 µs");
    expect(lines[1]).toBe(
      alignment === "edge"
        ? "TOP = 12000000 / (12 × 50) − 1 = 19999, period = (TOP + 1) × tick = 20000 µs"
        : "TOP = 12000000 / (2 × 12 × 50) = 10000, period = 2 × TOP × tick = 20000 µs",
    );
    expect(lines[3]).toBe(compare);
    expect(lines.at(-1)).toBe("error = 1700 − 1700 = 0 µs = 0°");
  });

  test("a call in µs takes it as it is; one in ticks of 8 µs comes to 1704", () => {
    expect(linesOn({ kind: "microseconds", tickUs: 1 })[1]).toBe("number = 1700 µs, in whole 1 µs");
    // 1700 / 8 = 212.5
    expect(linesOn({ kind: "microseconds", tickUs: 8 })[2]).toMatch(/makes (1696|1704) µs$/);
  });

  test("sleeping: what is left of the frame, or a fixed gap that must be split when one sleep is not long enough", () => {
    expect(linesOn(software).slice(0, 3)).toEqual([
      "sleep high = 1700 µs, in whole 1 µs",
      "sleep low = 18250 µs",
      "frame = high + low + 50 µs of loop = 20000 µs",
    ]);
    const gap = { ...software, framing: { kind: "fixedGap", gapUs: 20_000 }, largestDelayUs: 15_000 } as const;
    expect(linesOn(gap).slice(1, 3)).toEqual([
      "sleep low = 20000 µs, in 2 sleeps, since one sleeps 15000 µs at most",
      "frame = high + low + 50 µs of loop = 21750 µs",
    ]);
  });
});

describe("a continuous servo", () => {
  test("each side of neutral has its own span", () => {
    const crank = benchOf("vent-crank");
    const [forward, back] = [workingOf(crank, 0.5)[0], workingOf(crank, -0.5)[0]];
    expect(forward?.heading).toBe("From spin to pulse");
    expect(forward?.lines).toEqual(["span on this side = 2000 − 1500 = 500 µs", "pulse = 1500 + 0.5 × 500 = 1750 µs"]);
    expect(back?.lines).toEqual(["span on this side = 1500 − 1000 = 500 µs", "pulse = 1500 + −0.5 × 500 = 1250 µs"]);
    expect(equationsOf(crank)).toEqual([
      "pulse µs = 1500 + 500 × spin, for spin ≥ 0",
      "pulse µs = 1500 + 500 × spin, for spin < 0",
    ]);
  });
});

test("a smart servo is told ticks: hundredths of a degree are 100 a degree", () => {
  const [toTick, made] = workingOf(benchOf("turntable"), 10);
  expect(toTick?.heading).toBe("From angle to tick");
  expect(toTick?.lines[1]).toMatch(/^tick = 100 × /);
  expect(made?.lines[0]).toMatch(/^tick = [\d.]+, rounded$/);
  expect(equationsOf(benchOf("turntable"))[0]).toMatch(/^tick = 100 × angle/);
});

test("the card's line in every unit that a person's program may use", () => {
  const bench = neckOn({ kind: "counts", bits: 16, fullScale: "2^n-1", rounding: "round" });
  expect(equationsOf(bench)).toEqual([
    "pulse µs = 5.555556 × angle + 1000",
    "pulse ms = 0.00555556 × angle + 1",
    // 5.5556 / 200, and 1000 / 200
    "duty % = 0.0277778 × angle + 5",
    "duty 0…1 = 0.000277778 × angle + 0.05",
    // 65 535 / 20 000 of the line in µs
    "count = 18.204167 × angle + 3276.75",
    // 1.8204167 × 2^18, and (3276.75 + ½) × 2^18; over 180° that is 1.72 × 10⁹, and a bit more would not fit.
    "count = (477211 × tenths + 859111424) >> 18, in whole numbers; tenths of a degree; off by 0.502 of a count at most",
    "angle is the servo's own, in degrees",
  ]);
});

test("what does not fit is said beside what is loaded, and a sleep is never less than nothing", () => {
  const chip = {
    kind: "pulseChip",
    oscillatorHz: 20_000_000,
    oscillatorErrorPercent: 0,
    bits: 12,
    rounding: "round",
  } as const;
  expect(encodingWorking(chip, { askedHz: 8, periodUs: 1, setPoint: 1500 })[0]).toMatch(
    / = 609, which does not fit: 255$/,
  );
  const timer = {
    kind: "timer",
    clockHz: 16_000_000,
    prescale: 1,
    counterBits: 16,
    alignment: "edge",
    output: "normal",
  } as const;
  expect(encodingWorking(timer, { askedHz: 50, periodUs: 1, setPoint: 1500 })[1]).toContain(
    "= 319999, which does not fit: 65535",
  );
  const software = {
    kind: "software",
    framing: { kind: "fixedPeriod" },
    granularityUs: 1,
    largestDelayUs: 10_000,
    loopOverheadUs: 20,
    lateness: { floorUs: 0, meanUs: 0, spikeChance: 0, spikeMeanUs: 0 },
  } as const;
  // A frame of 1111.1 µs, and a pulse of 1500: −388.9 µs would be left.
  expect(encodingWorking(software, { askedHz: 900, periodUs: 1, setPoint: 1500 })[1]).toBe("sleep low = 0 µs");
});
