import type { Curve } from "@core/calibrate";
import { makerOf } from "@core/encodings";
import type { Board } from "@core/project";
import { describe, expect, test } from "vitest";
import { equationsFor } from ".";

/** 10 µs per degree, 600 µs at 0°. */
const curve: Curve = { kind: "line", slopePerDeg: 10, intercept: 600 };
const timer = {
  kind: "timer",
  clockHz: 16_000_000,
  prescale: 8,
  counterBits: 16,
  alignment: "edge",
  output: "normal",
} as const;

const numbersOf = (line: string | undefined) =>
  [...(line ?? "").matchAll(/(−|-)?\s?(\d+(?:\.\d+)?)/g)].map(([, sign, digits]) => (sign ? -1 : 1) * Number(digits));

const encodings: readonly Board["encoding"][] = [
  timer,
  { ...timer, output: "inverted" },
  { ...timer, alignment: "centre" },
  { ...timer, alignment: "centre", output: "inverted" },
  { kind: "counts", bits: 12, fullScale: "2^n-1", rounding: "round" },
  { kind: "counts", bits: 8, fullScale: "2^n", rounding: "truncate" },
];

describe("what is printed is what is loaded", () => {
  test.each(encodings.map((encoding) => [JSON.stringify(encoding), encoding] as const))("%s", (_, encoding) => {
    const maker = makerOf(encoding, 50);
    const { lines, integer } = equationsFor(curve, maker, 180);
    const [perDeg = 0, atZero = 0] = numbersOf(lines.at(-1)?.split("=")[1]);
    const [a = 0, b = 0, shift = 0] = numbersOf(integer?.line.split("=")[1]?.replace("× tenths", ""));
    for (let tenths = 0; tenths <= 1800; tenths += 1) {
      const exact = maker.exactCount(600 + tenths);
      expect(Math.abs((perDeg * tenths) / 10 + atZero - exact)).toBeLessThan(0.02);
      const whole = Math.floor((a * tenths + b) / 2 ** shift);
      expect(Math.abs(whole - exact)).toBeLessThanOrEqual((integer?.worstCounts ?? 0) + 1e-9);
    }
    expect(integer?.worstCounts).toBeLessThan(0.51);
  });

  test("by hand: an inverted timer of 0.5 µs a tick and TOP 39 999 loads TOP − ticks: 38 799 at 0°, 20 less a degree", () => {
    // 600 µs are 1200 ticks; the pin is high for TOP − compare.
    expect(equationsFor(curve, makerOf({ ...timer, output: "inverted" }, 50), 180).lines.at(-1)).toBe(
      "compare = −20 × angle + 38799",
    );
  });

  test("a board of tenths of a per cent has steps, and no counts", () => {
    const { lines, integer } = equationsFor(
      curve,
      makerOf({ kind: "percent", stepPercent: 0.1, rounding: "round" }, 50),
      180,
    );
    expect(lines.some((line) => line.startsWith("count"))).toBe(false);
    expect(integer?.line).toContain("steps = ");
  });

  test("with a fixed gap duty is pulse / (pulse + gap), and no straight line", () => {
    const software = {
      kind: "software",
      framing: { kind: "fixedGap", gapUs: 20_000 },
      granularityUs: 1,
      largestDelayUs: 10_000,
      loopOverheadUs: 20,
      lateness: { floorUs: 0, meanUs: 0, spikeChance: 0, spikeMeanUs: 0 },
    } as const;
    expect(equationsFor(curve, makerOf(software, 50), 180).lines).toContain(
      "duty % = 100 × pulse / (pulse + 20020): the frame changes with the pulse",
    );
  });
});
