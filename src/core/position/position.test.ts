import { demoProject } from "@core/demo";
import { type Encoding, newEncoding } from "@core/encodings";
import { byId } from "@core/project";
import { jointBench, jointBenchOf } from "@core/rig";
import { signalMakerOf } from "@core/signal";
import fc from "fast-check";
import { describe, expect, test } from "vitest";
import {
  boardProblems,
  compareBoard,
  comparedAngles,
  positionProblems,
  positionRows,
  readingsOf,
  readNumbers,
  roundingError,
  workingOf,
} from ".";

const project = demoProject();
const benchOf = (id: string) => jointBenchOf(project, byId(project.joints, id));
/** The demo's neck on a board of another kind. */
const neckOn = (encoding: Encoding, frameHz = 50) => {
  const joint = byId(project.joints, "neck-turn");
  const board = { ...byId(project.boards, "fern"), encoding, frameHz: [frameHz] };
  return jointBench(joint, byId(project.cards, joint.cardId), board);
};
const sixteenBits = neckOn({ kind: "counts", bits: 16, fullScale: "2^n-1", rounding: "round" });

describe("one position in every unit", () => {
  test("36° of the neck on 16 bits at 50 Hz", () => {
    const rows = Object.fromEntries(positionRows(sixteenBits, 36).map((row) => [row.id, row]));
    const exact = (id: string) => rows[id]?.exact;
    expect(exact("servo")).toBeCloseTo(126, 9);
    expect(exact("centred")).toBeCloseTo(36, 9);
    expect(exact("us")).toBeCloseTo(1700, 9);
    expect(exact("ms")).toBeCloseTo(1.7, 9);
    expect(exact("duty")).toBeCloseTo(8.5, 9);
    expect(exact("fraction")).toBeCloseTo(0.085, 9);
    // 0.085 × 65 535
    expect(exact("count")).toBeCloseTo(5570.475, 6);
    expect(rows.count?.made).toBe(5570);
    // (1700 − 1000) / 1000
    expect(exact("travel")).toBeCloseTo(0.7, 9);
    expect(exact("spin")).toBeCloseTo(0.4, 9);
    expect(exact("spinPercent")).toBeCloseTo(40, 9);
  });

  test("the crank's spin of 0.5 is 1750 µs; the turntable has ticks and no pulses", () => {
    expect(positionRows(benchOf("vent-crank"), 0.5).find((row) => row.id === "us")?.exact).toBe(1750);
    const rows = positionRows(benchOf("turntable"), 90);
    expect(rows.find((row) => row.id === "count")).toMatchObject({ name: "Tick", made: 27_000 });
    expect(rows.some((row) => row.id === "us")).toBe(false);
  });

  test("an 8-bit board is off by up to 7° and says so: one count is 78.4 µs", () => {
    const bench = neckOn({ kind: "counts", bits: 8, fullScale: "2^n-1", rounding: "round" });
    expect(roundingError(bench, 0).targetStep).toBeCloseTo(14.12, 2);
    expect(boardProblems(bench.board, bench.card, 0).join()).toContain("visible jumps");
  });

  test("whichever unit is typed, the others follow: every row leads back to the target", () => {
    const benches = [
      ...project.joints.map((joint) => benchOf(joint.id)),
      neckOn(newEncoding("software")),
      neckOn(newEncoding("timer")),
      neckOn(newEncoding("percent")),
    ];
    fc.assert(
      fc.property(fc.constantFrom(...benches), fc.double({ min: 0, max: 1, noNaN: true }), (bench, share) => {
        const target = bench.map.lowTarget + share * (bench.map.highTarget - bench.map.lowTarget);
        for (const row of positionRows(bench, target)) expect(row.toTarget(row.exact)).toBeCloseTo(target, 5);
      }),
    );
  });

  test("with a fixed gap, duty is a share of the frame that the pulse itself makes longer", () => {
    const gap = neckOn({
      ...newEncoding("software"),
      loopOverheadUs: 0,
      framing: { kind: "fixedGap", gapUs: 18_500 },
    });
    // 1500 of 20 000
    expect(positionRows(gap, 0).find((row) => row.id === "duty")?.exact).toBeCloseTo(7.5, 9);
  });
});

describe("the working", () => {
  test("is the calculation with the person's own numbers", () => {
    const text = workingOf(sixteenBits, 36).flatMap((part) => part.lines);
    expect(text).toContain("servo angle = zero + joint angle = 90 + 36 = 126°");
    expect(text).toContain("pulse = 5.5556 × 126 + 1000 = 1700 µs");
    expect(text).toContain("count = 0.085 × 65535 = 5570.475, rounded");
    expect(text).toContain("error = 1699.855 − 1700 = −0.145 µs = −0.0261°");
    expect(text).toContain("duty % = 0.0277778 × angle + 5");
  });

  test.each(["percent", "counts", "pulseChip", "timer", "microseconds", "software"] as const)(
    "of %s names its own numbers and none is missing",
    (kind) => {
      for (const { lines } of workingOf(neckOn(newEncoding(kind)), -20))
        for (const line of lines) expect(line).not.toMatch(/NaN|undefined|Infinity/);
    },
  );
});

describe("what unit is this?", () => {
  const { card } = benchOf("neck-turn");
  const maker = signalMakerOf(byId(project.boards, "pebble"));
  const first = (text: string) => {
    const numbers = readNumbers(text);
    return numbers.ok ? readingsOf(numbers.value, card, maker)[0] : undefined;
  };

  test("1640, 7864 are counts of 16 bits: 500.5 and 2400 µs", () => {
    const reading = first("1640, 7864");
    expect(reading?.name).toMatch(/16 bits|own numbers/);
    expect(reading?.pulsesUs.map((us) => Math.round(us))).toEqual([500, 2400]);
    expect(reading?.isSafe).toBe(true);
  });

  test("1638 8192 are counts of 16 bits as well", () =>
    expect(first("1638 8192")?.name).toMatch(/16 bits|own numbers/));

  test.each([
    ["102 512", "counts of 12 bits at 50 Hz"],
    ["1000, 1500, 2000", "µs"],
    ["min=0.5 max=2.5", "ms"],
    ["2.5, 7.5, 12.5", "duty % at 50 Hz"],
    ["0.05, 0.1", "duty 0…1 at 50 Hz"],
    ["0, 90, 180", "degrees, by the data sheet"],
    ["26, 128", "counts of 10 bits at 50 Hz"],
    ["500000 2500000", "ns"],
    ["500-2500", "µs"],
    ["500 – 2500 us", "µs"],
    ["0.5 to 2.5", "ms"],
    [".5 2.5 ms", "ms"],
    ["0,5 2,5", "ms"],
    ["0,0005 0,0025", "seconds"],
    ["0.0005 s, 0.0025 s", "seconds"],
    ["1500", "µs"],
    ["-90 0 90", "degrees about its middle, by the data sheet"],
    ["−90…90", "degrees about its middle, by the data sheet"],
    ["-1 0 1", "−1…1 about its middle, by the data sheet"],
    ["±100 %", "−100…100 % about its middle, by the data sheet"],
  ])("%s are %s", (text, name) => expect(first(text)?.name).toBe(name));

  test("pulses beyond the window are called so; no number and too many are refused", () => {
    const numbers = readingsOf({ numbers: [400, 2600], unit: null }, card, maker);
    expect(numbers[0]).toMatchObject({ name: "µs", isSafe: false });
    expect(readNumbers("none").ok).toBe(false);
    expect(readNumbers("1 ".repeat(30)).ok).toBe(false);
  });
});

describe("impossible asks", () => {
  test("300 Hz on a servo for 40 to 60 Hz", () => {
    const bench = neckOn(newEncoding("counts"), 300);
    expect(boardProblems(bench.board, bench.card, 0).join()).toMatch(/accepts 40 to 60 Hz.*Ask for 50 Hz/);
  });

  test("pulses longer than the frame, an angle past the travel, a pulse past the window", () => {
    const bench = neckOn(newEncoding("counts"), 450);
    expect(boardProblems(bench.board, bench.card, 0).join()).toContain("Stay below 333 Hz");
    expect(positionProblems(sixteenBits, 95).join()).toContain("Ask for −80 to 80");
    expect(positionProblems(sixteenBits, 190).join()).toContain("It takes 500 to 2500 µs");
    expect(positionProblems(sixteenBits, 30)).toEqual([]);
  });

  test("a timer that cannot go so slow, a chip out of its reach", () => {
    const slow = neckOn({ ...newEncoding("timer"), prescale: 1 });
    expect(boardProblems(slow.board, slow.card, 0).join()).toContain("reach 305.18 Hz at the lowest");
    const chip = neckOn(newEncoding("pulseChip"), 5);
    expect(boardProblems(chip.board, chip.card, 0).join()).toContain("This chip reaches 9.54 to 2441.41 Hz");
  });
});

test("side by side: 12 bits of 4.88 µs are 0.88° a step, worst half of it; 16 bits sixteen times finer", () => {
  const { card } = benchOf("neck-turn");
  if (card.kind === "continuous") throw new Error("the neck turns to and fro");
  const angles = comparedAngles(card);
  const compare = (encoding: Encoding) => compareBoard(card, { id: "a", label: "A", encoding, frameHz: 50 }, angles);
  const coarse = compare({ kind: "counts", bits: 12, fullScale: "2^n", rounding: "round" });
  // 20 000 / 4096 = 4.8828 µs; over 5.5556 µs per degree
  expect(coarse.stepDeg).toBeCloseTo(0.8789, 4);
  expect(coarse.worstErrorDeg).toBeLessThanOrEqual(0.8789 / 2 + 1e-9);
  expect(coarse.worstErrorDeg).toBeGreaterThan(0.43);
  expect(coarse.meanErrorDeg).toBeCloseTo(0.8789 / 4, 1);
  // 205 counts are the first above 1000 µs: 1000.98 µs.
  expect(coarse.lowestDeg).toBeCloseTo((205 * 4.8828125 - 1000) / (1000 / 180), 6);
  const fine = compare({ kind: "counts", bits: 16, fullScale: "2^n", rounding: "round" });
  expect(coarse.stepDeg / fine.stepDeg).toBeCloseTo(16, 9);
});
